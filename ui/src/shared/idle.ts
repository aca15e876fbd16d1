import { nextTick, ref, watch, type Ref } from 'vue'

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

// While the page loads, what takes long to draw comes when its turn does: a few ms of it
// at a time, so that whoever taps meanwhile is not kept waiting. Later it is there at once.
let loading = true
setTimeout(() => (loading = false), 3000)
const waiting: Ref<boolean>[] = []
// inside are the parts of the part whose turn it is: they come before what stands below it.
let inside: Ref<boolean>[] | null = null
const slice = 6

// useTurn says when it is this part's turn.
export function useTurn(): Ref<boolean> {
  const come = ref(!loading)
  if (!loading) return come
  if (inside) inside.push(come)
  else if (waiting.push(come) === 1) setTimeout(nextTurns)
  return come
}

async function nextTurns() {
  const began = performance.now()
  while (waiting.length > 0 && performance.now() - began < slice) {
    inside = []
    waiting[0]!.value = true
    await nextTick()
    waiting.splice(0, 1, ...inside)
    inside = null
  }
  if (waiting.length > 0) setTimeout(nextTurns)
}
