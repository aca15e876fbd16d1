import { ref } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { personId } from '../shared/settings'
import { say } from '../shared/toast'

interface Next {
  lotId: number
  step: number
  stepName: string
}

// useTakeUp takes up the next step of a lot. A rest that is not over is told
// first, and begun only when the risk is accepted.
export function useTakeUp() {
  const { act, busy, trouble } = useAct()
  const risk = ref<{ next: Next; why: string } | null>(null)

  async function takeUp(next: Next, acceptRisk = false) {
    risk.value = null
    await act(() =>
      answerOf(
        api.POST('/api/lots/{id}/runs', {
          params: { path: { id: next.lotId } },
          body: { personId: personId.value, step: next.step, acceptRisk },
        }),
      ),
    )
    if (trouble.value?.type === '/problems/rest-under-floor') risk.value = { next, why: trouble.value.message }
    else if (trouble.value) say({ text: trouble.value.message, bad: true })
  }

  return { takeUp, busy, risk }
}
