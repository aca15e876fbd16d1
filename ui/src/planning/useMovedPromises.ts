import { computed } from 'vue'
import { useAnswer } from '../api/answers'

// useMovedPromises reads what has moved since customers were told. known says
// that there is an answer, or that there will be none soon.
export function useMovedPromises() {
  const query = useAnswer('/api/moved-promises')
  const known = computed(() => query.isFetched.value || query.failureCount.value > 0)
  return { moves: query.data, known }
}
