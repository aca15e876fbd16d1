import { computed, ref, type ComputedRef } from 'vue'

// The server's clock decides: a phone's own may be wrong.
let offset = 0
const ticking = ref(Date.now())

// offsetBy gives the offset to the server's clock after an answer that says
// what time it was there while the answer was on its way. An offset that the
// answer agrees with is kept: a slow answer says little, and whole seconds are
// cut off. Otherwise the server is taken to have looked at its clock when it
// was asked, as it does, and to have worked on the answer since.
export function offsetBy(before: number, serverNow: number, sent: number, received: number): number {
  const least = serverNow - received
  const most = serverNow + 999 - sent
  return before >= least && before <= most ? before : Math.max(least, most - 500)
}

export function setServerTime(serverNow: number, sent: number, received: number) {
  const next = offsetBy(offset, serverNow, sent, received)
  if (next === offset) return
  offset = next
  ticking.value = rightNow()
}

setInterval(() => (ticking.value = rightNow()), 1000)

// rightNow is to the moment, also while the page is too busy to tick.
export const rightNow = () => Date.now() + offset

// now moves on every second.
export const now = computed(() => ticking.value)

// thisMinute moves on every minute, for what need not be drawn each second.
export const thisMinute: ComputedRef<number> = computed(() => Math.floor(ticking.value / 60000) * 60000)
