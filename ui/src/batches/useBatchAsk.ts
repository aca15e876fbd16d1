import { computed, shallowRef, watch, type Ref } from 'vue'
import { useAsked } from '../api/answers'
import type { Schemas } from '../api/client'

// useBatchAsk asks which promises a batch would break, once the typing has
// paused; nothing is asked of a batch that cannot be.
export function useBatchAsk(batch: Ref<Schemas['NewBatch'] | null>) {
  const settled = shallowRef(batch.value)
  watch(
    () => JSON.stringify(batch.value),
    (_, __, onCleanup) => {
      const timer = setTimeout(() => (settled.value = batch.value), 250)
      onCleanup(() => clearTimeout(timer))
    },
    { immediate: true },
  )
  const { data, isPlaceholderData } = useAsked('/api/batches/ask', settled, {
    enabled: () => settled.value !== null,
    keep: true,
  })
  const broken = computed(() => (settled.value && data.value ? data.value.moves.filter((m) => m.breaks) : []))
  // The pilot piece alone breaks a promise; an answer to an earlier question says nothing of that.
  const pilotBreaks = computed(
    () =>
      !isPlaceholderData.value &&
      Boolean(settled.value?.pilot) &&
      broken.value.length > 0 &&
      !data.value?.withoutPilot.some((m) => m.breaks),
  )
  return { broken, pilotBreaks }
}
