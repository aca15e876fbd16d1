import { computed, ref, shallowRef, watch } from 'vue'
import { useAsked } from '../api/answers'
import type { Schemas } from '../api/client'

// What is thought about on this device: how the studio would be. It is a draft like any
// form's; nothing of the studio changes before it is made so.
export interface Thought {
  away: Schemas['AwayOn'][]
  comes: Schemas['ComesIn'][]
  places: number
  anyTime: NonNullable<Schemas['Suppositions']['anyTime']>
  holds: (Schemas['HoldLot'] & { said: string })[]
  first: { lotId: number; said: string }[]
  order: { productId: number; quantity: number; dueOn: string } | null
  without: number[]
}
const nothing = (): Thought => ({
  away: [],
  comes: [],
  places: 0,
  anyTime: [],
  holds: [],
  first: [],
  order: null,
  without: [],
})

export const thought = ref<Thought>(nothing())

export const thinking = computed(() => {
  const t = thought.value
  const kinds = t.away.length + t.comes.length + t.anyTime.length + t.holds.length + t.first.length + t.without.length
  return kinds > 0 || t.places > 0 || t.order !== null
})

export const dropThought = () => (thought.value = nothing())

// supposed is what is thought about as it is sent.
export function suppositions(t: Thought): Schemas['Suppositions'] {
  return {
    away: t.away,
    comes: t.comes,
    places: t.places,
    anyTime: t.anyTime,
    holds: t.holds.map(({ lotId, step, at, personId }) => ({ lotId, step, at, personId })),
    first: t.first.map((f) => f.lotId),
    without: t.without,
    ...(t.order
      ? { order: { dueOn: t.order.dueOn, lines: [{ productId: t.order.productId, quantity: t.order.quantity }] } }
      : {}),
  }
}

// hold supposes a step at a time; what was supposed of the same lot before goes.
export function hold(held: Schemas['HoldLot'] & { said: string }) {
  thought.value.holds = [...thought.value.holds.filter((h) => h.lotId !== held.lotId), held]
}

// also adds what a way out supposes.
export function also(more: Schemas['Suppositions'], said: string) {
  const t = thought.value
  t.away.push(...(more.away ?? []))
  t.comes.push(...(more.comes ?? []))
  t.places += more.places ?? 0
  t.anyTime = [...new Set([...t.anyTime, ...(more.anyTime ?? [])])]
  for (const lotId of more.first ?? []) if (!t.first.some((f) => f.lotId === lotId)) t.first.push({ lotId, said })
}

// useSupposed asks what would be, once fingers have paused. asking tells that the
// answer to what was typed last is still to come.
export function useSupposed(from: () => string | undefined) {
  const settled = shallowRef(suppositions(thought.value))
  const typing = ref(false)
  let pause: ReturnType<typeof setTimeout> | undefined
  watch(
    thought,
    (t) => {
      clearTimeout(pause)
      typing.value = true
      pause = setTimeout(() => {
        typing.value = false
        settled.value = suppositions(t)
      }, 250)
    },
    { deep: true, flush: 'sync' },
  )
  const body = computed(() => ({ ...settled.value, from: from(), days: 7 }))
  const { data, error, isPending, isPlaceholderData } = useAsked('/api/plan/suppose', body, {
    enabled: thinking,
    keep: true,
  })
  return { data, error, asking: computed(() => typing.value || isPending.value || isPlaceholderData.value) }
}
