import { ref, watch, type Ref } from 'vue'

// How long, in ms, a pointer must have been still before the page moves under it.
const quiet = 1000
let lastMoved = -Infinity
for (const kind of ['pointermove', 'pointerdown', 'pointerup'])
  addEventListener(kind, () => (lastMoved = performance.now()), { passive: true, capture: true })

// useStill tells of something that pushes the page down that it is to appear: at once,
// but not while a pointer is on its way to what would be pushed away.
export function useStill(there: () => boolean): Ref<boolean> {
  const shown = ref(there())
  let later: ReturnType<typeof setTimeout> | undefined
  watch(there, function follow() {
    clearTimeout(later)
    const wait = lastMoved + quiet - performance.now()
    if (!there() || wait <= 0) shown.value = there()
    else later = setTimeout(follow, wait)
  })
  return shown
}
