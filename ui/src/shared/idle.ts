import { ref, watch, type Ref } from 'vue'

// whenIdle does something once the page has come to rest.
export const whenIdle: (act: () => void) => void = window.requestIdleCallback
  ? (act) => window.requestIdleCallback(act, { timeout: 1000 })
  : (act) => setTimeout(act, 50)

// useGradual is how many of a long row of things are drawn: the first few at once,
// the others a few at a time while the page has nothing else to do, so that
// whoever taps meanwhile is not kept waiting.
export function useGradual(all: () => number, first: number): Ref<number> {
  const drawn = ref(first)
  let going = false
  const more = () => {
    drawn.value += Math.ceil(first / 2)
    going = drawn.value < all()
    if (going) whenIdle(more)
  }
  watch(
    all,
    (n) => {
      if (going || n <= drawn.value) return
      going = true
      whenIdle(more)
    },
    { immediate: true },
  )
  return drawn
}
