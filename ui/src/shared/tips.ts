import { ref } from 'vue'

// tip is what is said of the thing under the pointer, or with the focus: whatever
// bears data-tip. One tooltip serves the whole page.
export const tip = ref<{ of: HTMLElement; text: string } | null>(null)

const bearer = (event: Event) =>
  event.target instanceof Element ? event.target.closest<HTMLElement>('[data-tip]') : null

function show(event: Event) {
  const of = bearer(event)
  if (event.type === 'focusin' && !of?.matches(':focus-visible')) return
  tip.value = of?.dataset.tip ? { of, text: of.dataset.tip } : null
}
const hide = () => (tip.value = null)

export function followTips() {
  document.addEventListener('mouseover', show)
  document.addEventListener('focusin', show)
  document.addEventListener('focusout', hide)
  document.addEventListener('pointerdown', hide)
  document.addEventListener('keydown', (e) => e.key === 'Escape' && hide())
}
