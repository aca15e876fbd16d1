import { onUnmounted, ref, watch, type Ref } from 'vue'

// useElementWidth follows the width of an element in pixels.
export function useElementWidth(element: Ref<HTMLElement | null>) {
  const width = ref(0)
  const observer = new ResizeObserver((entries) => {
    for (const entry of entries) width.value = entry.contentRect.width
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
  return width
}
