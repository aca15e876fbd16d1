import { computed, ref, watch } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { now } from '../shared/clock'
import { dateOf, momentIn, timeOn } from '../shared/time'
import { say } from '../shared/toast'
import { allGood, type Outcomes } from './outcomes'
import { isRisk } from './useTakeUp'

const at = (t: number) => ({ date: dateOf(t), time: timeOn(t) })
const said = (at: { date: string; time: string }) => at.date !== '' && at.time !== ''
const momentOf = (at: { date: string; time: string }) => momentIn(at.date, at.time).getTime()

// useDone marks what is in hand as done, one lot or a sitting of several: how each lot's
// pieces came out, when it was if not now, and what has to be accepted on the way.
export function useDone(work: () => Schemas['InHand'], saved: () => Promise<void>) {
  const { act, refuse, tell, busy, trouble, fault } = useAct()
  const outcomes = ref<Record<number, Outcomes>>({})
  watch(
    () => work().lots.map((l) => l.runId),
    (runs) => {
      outcomes.value = Object.fromEntries(runs.map((id) => [id, outcomes.value[id] ?? allGood()]))
    },
    { immediate: true },
  )

  const earlier = ref(false)
  const began = ref(at(now.value))
  const ended = ref(at(now.value))
  // What was done before it was taken up was taken up by mistake: it was begun earlier too.
  // A clock time is to the minute, and the minute it was taken up in is not before.
  const started = computed(() => Date.parse(work().startedAt))
  const before = computed(
    () => earlier.value && said(ended.value) && momentOf(ended.value) < Math.floor(started.value / 60_000) * 60_000,
  )
  watch(
    [before, ended],
    () => {
      if (before.value) began.value = at(momentOf(ended.value) - work().minutes * 60_000)
    },
    { deep: true },
  )
  function askWhen() {
    earlier.value = !earlier.value
    ended.value = at(now.value)
  }

  // asked is what has to be accepted before it is done; what was accepted stays so for the next question.
  const asked = ref<{ kind: 'short' | 'long' | 'risk'; why: string } | null>(null)
  let accepted = { acceptShort: false, acceptLong: false, acceptRisk: false }
  const kindOf = (type: string | undefined) =>
    type === '/problems/short' ? 'short' : type === '/problems/long-step' ? 'long' : isRisk(type) ? 'risk' : null

  function send(startedAt: string | undefined, endedAt: string | undefined) {
    const { sittingId, lots } = work()
    const { acceptRisk, ...accept } = accepted
    if (sittingId !== undefined) {
      const came = lots.map((l) => ({ runId: l.runId, ...outcomes.value[l.runId]! }))
      return api.POST('/api/sittings/{id}/done', {
        params: { path: { id: sittingId } },
        body: { startedAt, endedAt, lots: came, ...accepted },
      })
    }
    const path = { params: { path: { id: lots[0]!.runId } } }
    const body = { endedAt, ...outcomes.value[lots[0]!.runId]!, ...accept }
    return startedAt
      ? api.POST('/api/runs/{id}/done-before', { ...path, body: { ...body, startedAt, acceptRisk } })
      : api.POST('/api/runs/{id}/done', { ...path, body })
  }

  async function done(also: Partial<typeof accepted> = {}) {
    accepted = { ...accepted, ...also }
    asked.value = null
    await saved()
    const { sittingId, stepName, lots } = work()
    if (earlier.value && !said(ended.value)) return refuse('endedAt', 'say on what day and when it was done')
    if (before.value && !said(began.value)) return refuse('startedAt', 'say on what day and when it was begun')
    const end = before.value ? momentOf(ended.value) : Math.max(started.value, momentOf(ended.value))
    const endedAt = earlier.value ? new Date(end).toISOString() : undefined
    const startedAt = before.value ? new Date(momentOf(began.value)).toISOString() : undefined
    await act(() => answerOf(send(startedAt, endedAt)))
    const kind = kindOf(trouble.value?.type)
    if (kind) {
      asked.value = { kind, why: trouble.value!.message }
      trouble.value = null
    }
    if (trouble.value || asked.value) return
    const undo = () =>
      tell(() =>
        answerOf(
          sittingId !== undefined
            ? api.POST('/api/sittings/{id}/undo', { params: { path: { id: sittingId } } })
            : api.POST('/api/runs/{id}/undo', { params: { path: { id: lots[0]!.runId } } }),
        ),
      )
    const lotsDone = lots.length > 1 ? ` for ${lots.length} lots` : ''
    say({ text: `${stepName}: done${lotsDone}.`, action: 'Undo', act: undo })
  }
  function sayWhen() {
    asked.value = null
    if (!earlier.value) askWhen()
  }

  return { outcomes, earlier, began, ended, before, askWhen, asked, done, sayWhen, tell, busy, trouble, fault }
}
