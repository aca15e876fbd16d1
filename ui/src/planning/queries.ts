import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { useRoute } from 'vue-router'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { useTray } from '../shared/tray'
import { groupBy, together } from './strip'

export const useToday = () => useAnswer('/api/today')

// A plan that is being made is there in a moment.
const again = (plan: { making: boolean } | undefined) => (plan?.making ? 500 : 30000)

// usePlan reads a week from a date on; without one from today.
export function usePlan(from: MaybeRefOrGetter<string | undefined>, enabled: MaybeRefOrGetter<boolean> = true) {
  const query = computed(() => ({ query: { from: toValue(from), days: 7 } }))
  return useAnswer('/api/plan', query, { keep: true, again, enabled })
}

// useFrom is the day that the plan's page begins with; undefined for today.
export function useFrom() {
  const route = useRoute()
  return computed(() => (typeof route.query.from === 'string' ? route.query.from : undefined))
}

// useRibbon reads the day as it is, or the night and the next working day.
export const useRibbon = () => useAnswer('/api/ribbon', undefined, { keep: true, again })

// useShownPlan is what the page shows of the plan: its week on Plan, elsewhere the ribbon.
export function useShownPlan() {
  const route = useRoute()
  const onPlan = computed(() => route.path === '/plan')
  const { data: week } = usePlan(useFrom(), onPlan)
  const { data: day } = useRibbon()
  return computed(() => (onPlan.value ? week.value : day.value))
}

export const useLot = (id: MaybeRefOrGetter<number>) =>
  useAnswer('/api/lots/{id}', () => ({ path: { id: toValue(id) } }))

// readyAt are the rests of a ring in the rack: those that end from a minute on.
export const readyAt = (minute: number, rests: Resting[]) =>
  rests.filter((r) => Date.parse(r.ready) >= minute * 60000 && Date.parse(r.ready) < minute * 60000 + together)

// usePicked are the lots, among those a plan shows, that what is picked is about;
// null where nothing is, or nothing of it is shown.
export function usePicked(plan: () => Schemas['Plan'] | undefined) {
  const { shown } = useTray()
  const route = useRoute()
  return computed(() => {
    const p = plan()
    const about = p && (shown.value ? lotsOf(shown.value, p) : ofProduct(Number(route.params.id), p))
    const lots = new Set(about?.filter((id) => id > 0))
    return lots.size > 0 ? lots : null
  })
}

const ofProduct = (id: number, plan: Schemas['Plan']) =>
  plan.hands.filter((h) => h.productId === id).map((h) => h.lotId)

function lotsOf({ kind, id }: { kind: string; id: number }, plan: Schemas['Plan']): number[] {
  const of = (is: (h: Hands) => boolean) => plan.hands.filter(is).map((h) => h.lotId)
  if (kind === 'lot') return [id]
  if (kind === 'order') return of((h) => h.orders.includes(id))
  if (kind === 'batch') return of((h) => h.batchId === id)
  if (kind === 'shelf') return ofProduct(id, plan)
  if (kind === 'work') return groupBy(id, plan.days, plan.hands)?.group.hands.map((h) => h.lotId) ?? []
  if (kind === 'ready') return readyAt(id, plan.rests).map((r) => r.lotId)
  return []
}

export type Hands = Schemas['Hands']
export type Resting = Schemas['Resting']
export type Day = Schemas['Day']
export type Readiness = Schemas['Readiness']
