import { onUnmounted, watch, type Ref } from 'vue'

// useAwake keeps the screen on while it is wanted, where the browser can. A
// page that was hidden has lost its hold and takes it again when it is seen.
export function useAwake(wanted: Ref<boolean>) {
  if (!('wakeLock' in navigator)) return
  let hold: WakeLockSentinel | null = null
  let asking = false

  async function follow() {
    if (asking) return
    asking = true
    try {
      if (wanted.value && !document.hidden && (!hold || hold.released))
        hold = await navigator.wakeLock.request('screen')
      if (!wanted.value && hold) {
        await hold.release()
        hold = null
      }
    } catch {
      // A phone that saves its battery refuses: the work goes on with a dark screen.
    } finally {
      asking = false
    }
  }
  const stop = watch(wanted, follow, { immediate: true })
  document.addEventListener('visibilitychange', follow)
  onUnmounted(() => {
    stop()
    document.removeEventListener('visibilitychange', follow)
    void hold?.release()
  })
}
