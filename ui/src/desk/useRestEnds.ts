import { computed, onUnmounted, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { readClock } from '../api/queries'
import { canRing, ringIn } from '../shared/bell'
import { now, rightNow } from '../shared/clock'
import { soundOn } from '../shared/settings'
import { useToday } from '../planning/queries'

type Rest = Schemas['RestLot']

// A rest that ends while people wait beside it: longer ones are planned for, not waited for.
const shortMinutes = 60
const length = (r: Rest) => (Date.parse(r.ready) - Date.parse(r.start)) / 60000
const placeOf = (r: { lotId: number; step: number }) => `${r.lotId}:${r.step}`
const keyOf = (r: Rest) => `${placeOf(r)}:${r.ready}`

// due gives the short rests among all, soonest first.
export const shortRests = (all: Rest[]) =>
  all.filter((r) => length(r) <= shortMinutes).sort((a, b) => Date.parse(a.ready) - Date.parse(b.ready))

// useRestEnds watches the short rests: each end is rung, and stands in ended
// until somebody has seen to it.
export function useRestEnds() {
  const { data: today } = useToday()
  const running = computed(() => shortRests(today.value?.resting ?? []))
  const ended = ref<Rest[]>([])
  const laid = new Map<string, () => void>()
  // watched are the rests seen running here, with what was known of them.
  const watched = new Map<string, Rest>()

  function lay() {
    const wanted = soundOn.value && canRing() ? running.value : []
    const keys = new Set(wanted.map(keyOf))
    for (const [key, takeBack] of laid)
      if (!keys.has(key)) {
        takeBack()
        laid.delete(key)
      }
    for (const r of wanted) {
      const seconds = (Date.parse(r.ready) - rightNow()) / 1000
      if (!laid.has(keyOf(r)) && seconds > 0) laid.set(keyOf(r), ringIn(seconds))
    }
  }

  watch(
    [running, soundOn],
    ([all]) => {
      // An answer may still count a rest as running whose end was told already.
      for (const r of all) if (!ended.value.some((e) => keyOf(e) === keyOf(r))) watched.set(keyOf(r), r)
      lay()
    },
    { immediate: true },
  )
  watch(now, (at) => {
    const over = [...watched.values()].filter((r) => Date.parse(r.ready) <= at)
    if (over.length === 0) return
    for (const r of over) {
      watched.delete(keyOf(r))
      laid.delete(keyOf(r)) // it is sounding, and may go on
    }
    // A rest may end twice, where its start was corrected in between.
    const places = new Set(over.map(placeOf))
    ended.value = [...ended.value.filter((r) => !places.has(placeOf(r))), ...over]
    if (soundOn.value && navigator.userActivation?.hasBeenActive) navigator.vibrate?.([250, 120, 250])
    void readClock()
  })
  // What has been taken up, put on or spoiled since is no news any more.
  watch(today, (t) => {
    if (!t) return
    const waiting = new Set([...t.ready.flatMap((s) => s.lots), ...t.resting].map(placeOf))
    ended.value = ended.value.filter((r) => waiting.has(placeOf(r)))
    for (const [key, r] of watched) if (!waiting.has(placeOf(r))) watched.delete(key)
  })
  const seen = (r: Rest) => (ended.value = ended.value.filter((e) => keyOf(e) !== keyOf(r)))
  onUnmounted(() => laid.forEach((takeBack) => takeBack()))

  return { running, ended, seen, lay }
}
