import { onScopeDispose, ref } from 'vue'

// useNarrow tells whether the window is no wider than so many pixels.
export function useNarrow(most: number) {
  const media = window.matchMedia(`(max-width: ${most}px)`)
  const narrow = ref(media.matches)
  const follow = () => (narrow.value = media.matches)
  media.addEventListener('change', follow)
  onScopeDispose(() => media.removeEventListener('change', follow))
  return narrow
}
