import { onMounted, onUnmounted } from 'vue'
import { lettersOn } from './settings'

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName) ||
    target.closest('[role="dialog"]') !== null)

// useKeys acts on single keys while nothing is being typed, unless they are switched off.
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>) {
  const listen = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return
    if (!lettersOn.value && event.key !== 'Escape') return
    const act = keys[event.key.toLowerCase()] ?? keys[event.key]
    if (act) act(event)
  }
  onMounted(() => window.addEventListener('keydown', listen))
  onUnmounted(() => window.removeEventListener('keydown', listen))
}

// moveAmong lets the arrow keys move the focus among the marked elements of a
// group, of which only one is a tab stop.
export function moveAmong(event: KeyboardEvent, group: HTMLElement | null) {
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key]
  if (!step || !group) return
  const all = [...group.querySelectorAll<HTMLElement>('[data-among]')]
  const at = all.indexOf(document.activeElement as HTMLElement)
  const next = all[Math.min(all.length - 1, Math.max(0, at + step))]
  if (!next) return
  event.preventDefault()
  for (const one of all) one.tabIndex = one === next ? 0 : -1
  next.focus()
}
