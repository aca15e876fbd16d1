import { ref } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { personId } from '../shared/settings'
import { say } from '../shared/toast'

interface Next {
  lotId: number
  step: number
}

// isRisk tells whether a refusal may be overruled by accepting the risk.
export const isRisk = (type: string | undefined) => type === '/problems/rest-under-floor' || type === '/problems/risk'

// useTakeUp takes up the next step of a lot, or like steps of several in one sitting.
// What speaks against it is told first, and it is begun only when the risk is accepted.
export function useTakeUp() {
  const { act, busy, trouble } = useAct()
  const risk = ref<{ next: Next[]; why: string; early: boolean } | null>(null)

  async function takeUp(next: Next[], acceptRisk = false) {
    risk.value = null
    const [first, ...others] = next
    if (!first) return
    const by = { personId: personId.value, acceptRisk }
    await act(() =>
      answerOf(
        others.length > 0
          ? api.POST('/api/sittings', { body: { ...by, lots: next.map(({ lotId, step }) => ({ lotId, step })) } })
          : api.POST('/api/lots/{id}/runs', {
              params: { path: { id: first.lotId } },
              body: { ...by, step: first.step },
            }),
      ),
    )
    if (trouble.value && isRisk(trouble.value.type)) {
      risk.value = { next, why: trouble.value.message, early: trouble.value.type === '/problems/rest-under-floor' }
    } else if (trouble.value) say({ text: trouble.value.message, bad: true })
  }

  return { takeUp, busy, risk }
}
