import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'

export const useToday = () => useQuery({ queryKey: ['today'], queryFn: () => answerOf(api.GET('/api/today')) })

// usePlan reads days from a date on; without one from today.
export function usePlan(from: MaybeRefOrGetter<string | undefined>, days: number) {
  return useQuery({
    queryKey: computed(() => ['plan', toValue(from) ?? 'today', days]),
    queryFn: () => answerOf(api.GET('/api/plan', { params: { query: { from: toValue(from), days } } })),
    placeholderData: keepPreviousData,
    // A plan that is being made is there in a moment.
    refetchInterval: (query) => (query.state.data?.making ? 500 : undefined),
  })
}

export function useLot(id: MaybeRefOrGetter<number>) {
  return useQuery({
    queryKey: computed(() => ['lot', toValue(id)]),
    queryFn: () => answerOf(api.GET('/api/lots/{id}', { params: { path: { id: toValue(id) } } })),
  })
}

export type Hands = Schemas['Hands']
export type Resting = Schemas['Resting']
export type Day = Schemas['Day']
export type Readiness = Schemas['Readiness']
