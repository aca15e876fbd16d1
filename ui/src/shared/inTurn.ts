import { computed, shallowRef, type Component, type ComputedRef } from 'vue'
import { useTurn, whenIdle } from './idle'

// What opens is much to load and to draw: it is asked for by the first field that has
// one, and stands in each in its turn. Until then the field shows what it holds.
const parts = {
  list: () => import('./PickList.vue'),
  offers: () => import('./OfferList.vue'),
}
const loaded = shallowRef<{ [K in keyof typeof parts]?: Component }>({})

async function load(name: keyof typeof parts) {
  const part = (await parts[name]()).default
  loaded.value = { ...loaded.value, [name]: part }
}

// useInTurn is what opens, when it has come and this field's turn has.
export function useInTurn(name: keyof typeof parts): ComputedRef<Component | undefined> {
  const come = useTurn()
  if (!loaded.value[name]) whenIdle(() => void load(name))
  return computed(() => (come.value ? loaded.value[name] : undefined))
}
