import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'

export const useToday = () => useAnswer('/api/today')

// usePlan reads days from a date on; without one from today.
export function usePlan(from: MaybeRefOrGetter<string | undefined>, days: number) {
  const query = computed(() => ({ query: { from: toValue(from), days } }))
  // A plan that is being made is there in a moment.
  return useAnswer('/api/plan', query, { keep: true, again: (plan) => (plan?.making ? 500 : 30000) })
}

export const useLot = (id: MaybeRefOrGetter<number>) =>
  useAnswer('/api/lots/{id}', () => ({ path: { id: toValue(id) } }))

export type Hands = Schemas['Hands']
export type Resting = Schemas['Resting']
export type Day = Schemas['Day']
export type Readiness = Schemas['Readiness']
