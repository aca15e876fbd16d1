import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answerOf, api } from '../api/client'

// useMovedPromises reads what has moved since customers were told. known says
// that there is an answer, or that there will be none soon.
export function useMovedPromises() {
  const query = useQuery({
    queryKey: ['moved-promises'],
    queryFn: () => answerOf(api.GET('/api/moved-promises')),
  })
  const known = computed(() => query.isFetched.value || query.failureCount.value > 0)
  return { moves: query.data, known }
}
