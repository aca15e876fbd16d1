import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { seesBusiness } from '../shared/settings'

// useMovedPromises reads what has moved since customers were told. known says
// that there is an answer, or that there will be none soon.
export function useMovedPromises() {
  const query = useAnswer('/api/moved-promises', undefined, { enabled: seesBusiness })
  const known = computed(() => !seesBusiness.value || query.isFetched.value || query.failureCount.value > 0)
  return { moves: query.data, known }
}
