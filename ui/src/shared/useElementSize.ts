import { onUnmounted, ref, watch, type Ref } from 'vue'

// useElementWidth follows the width of an element in pixels.
export const useElementWidth = (element: Ref<HTMLElement | null>) => useElementSize(element, 'width')

// useElementHeight follows its height.
export const useElementHeight = (element: Ref<HTMLElement | null>) => useElementSize(element, 'height')

function useElementSize(element: Ref<HTMLElement | null>, side: 'width' | 'height') {
  const size = ref(0)
  const observer = new ResizeObserver((entries) => {
    for (const entry of entries) size.value = entry.contentRect[side]
  })
  watch(
    element,
    (next, before) => {
      if (before) observer.unobserve(before)
      if (next) observer.observe(next)
    },
    { immediate: true, flush: 'post' },
  )
  onUnmounted(() => observer.disconnect())
  return size
}
