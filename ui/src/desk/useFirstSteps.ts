import { computed, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { firstSteps } from '../shared/settings'

// useFirstSteps are the steps of a new owner from nothing to a first planned batch,
// while this device is on the way through them; undefined where there is nothing to tell.
export function useFirstSteps() {
  const { data: done } = useAnswer('/api/first-steps', {}, { enabled: () => firstSteps.value !== 'past' })
  // A studio that is under way when it is first looked at needs no telling.
  watch(done, (d) => {
    if (!d) return
    if (Object.values(d).includes(false)) firstSteps.value = 'going'
    else if (firstSteps.value === 'unknown') firstSteps.value = 'past'
  })
  return computed(() => (firstSteps.value === 'going' ? done.value : undefined))
}
