import { computed, shallowRef, type Component, type ComputedRef } from 'vue'
import { useTurn, whenIdle } from './idle'

// What opens is much to load and to draw: it is asked for by the first field that has
// one, and stands in each in its turn. Until then the field shows what it holds.
const parts = {
  list: () => import('./PickList.vue'),
  offers: () => import('./OfferList.vue'),
}
type Part = keyof typeof parts
const loaded = shallowRef<{ [K in Part]?: Component }>({})
const asked = new Set<Part>()
// How long to wait, in ms, where the line is gone.
const pause = 2000

async function load(name: Part) {
  try {
    const part = (await parts[name]()).default
    loaded.value = { ...loaded.value, [name]: part }
  } catch {
    setTimeout(() => void load(name), pause)
  }
}

// useInTurn is what opens, when it has come and this field's turn has.
export function useInTurn(name: Part): ComputedRef<Component | undefined> {
  const come = useTurn()
  if (!asked.has(name)) {
    asked.add(name)
    whenIdle(() => void load(name))
  }
  return computed(() => (come.value ? loaded.value[name] : undefined))
}
