import { computed, ref, type ComputedRef } from 'vue'

// The server's clock decides: a phone's own may be wrong. Answers carry whole
// seconds, so a small difference is left alone.
let offset = 0
const ticking = ref(Date.now())

export function setServerTime(serverNow: number) {
  const difference = serverNow - Date.now()
  if (Math.abs(difference - offset) > 1500) {
    offset = difference
    ticking.value = Date.now() + offset
  }
}

setInterval(() => (ticking.value = Date.now() + offset), 1000)

// now moves on every second.
export const now = computed(() => ticking.value)

// thisMinute moves on every minute, for what need not be drawn each second.
export const thisMinute: ComputedRef<number> = computed(() => Math.floor(ticking.value / 60000) * 60000)
