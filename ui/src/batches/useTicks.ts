import { ref, watch } from 'vue'
import { answerOf, api, Trouble, type Schemas } from '../api/client'
import { catchUp } from '../api/live'
import { say } from '../shared/toast'

// useTicks keeps a checklist as it is tapped, however fast, and saves it in
// the background: the last state wins.
export function useTicks(work: () => Schemas['InHand']) {
  const ticked = ref(new Set(work().ticked))
  let saving: Promise<void> | null = null
  let changed = false

  watch(
    () => work().ticked,
    (saved) => {
      if (!saving) ticked.value = new Set(saved)
    },
  )

  async function save() {
    try {
      do {
        changed = false
        const { sittingId, lots } = work()
        const body = { ticked: [...ticked.value] }
        await answerOf(
          sittingId !== undefined
            ? api.POST('/api/sittings/{id}/ticked', { params: { path: { id: sittingId } }, body })
            : api.POST('/api/runs/{id}/ticked', { params: { path: { id: lots[0]!.runId } }, body }),
        )
      } while (changed)
    } catch (error) {
      if (!(error instanceof Trouble)) throw error
      say({ text: error.message, bad: true })
      ticked.value = new Set(work().ticked)
    } finally {
      saving = null
      void catchUp()
    }
  }

  function toggle(point: number) {
    const next = new Set(ticked.value)
    if (!next.delete(point)) next.add(point)
    ticked.value = next
    if (saving) changed = true
    else saving = save()
  }

  // saved waits until what was tapped is kept.
  const saved = () => saving ?? Promise.resolve()

  return { ticked, toggle, saved }
}
