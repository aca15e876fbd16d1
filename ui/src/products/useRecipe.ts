import { computed, ref, watch } from 'vue'
import { useAsked } from '../api/answers'
import { Trouble, type Schemas } from '../api/client'

export type Step = Schemas['Step']
type Form = Schemas['RecipeForm']

const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
const formOf = (d: Schemas['Draft']): Form => ({
  look: d.look,
  sheen: d.sheen,
  choices: d.choices,
  steps: copy(d.steps),
})

// freeId is an id that no step has, made from a wish.
export function freeId(steps: Step[], wish: string): string {
  let id = wish
  for (let n = 2; steps.some((s) => s.id === id); n++) id = `${wish}-${n}`
  return id
}

// moved gives the steps with one of them a place earlier or later, its inside
// steps with it. A step inside a rest stays among those of the same rest.
export function moved(steps: Step[], index: number, by: 1 | -1): Step[] {
  const step = steps[index]
  if (!step) return steps
  const groups: Step[][] = []
  for (const s of steps) {
    if (s.inside && groups.length) groups[groups.length - 1]!.push(s)
    else groups.push([s])
  }
  const g = groups.findIndex((group) => group.includes(step))
  const group = groups[g]!
  if (step.inside) {
    const at = group.indexOf(step)
    const to = at + by
    if (to < 1 || to >= group.length) return steps
    group.splice(at, 1)
    group.splice(to, 0, step)
  } else {
    const to = g + by
    if (to < 0 || to >= groups.length) return steps
    groups.splice(g, 1)
    groups.splice(to, 0, group)
  }
  return groups.flat()
}

// without removes a step; those inside its rest come out of it and follow on their own.
export function without(steps: Step[], index: number): Step[] {
  const gone = steps[index]
  return steps
    .filter((_, i) => i !== index)
    .map((s) => (gone && s.inside === gone.id ? { ...s, inside: undefined } : s))
}

// changedSteps names the steps that are other in one recipe than in another, those left out included.
export function changedSteps(before: Step[], after: Step[]): string[] {
  const was = new Map(before.map((s) => [s.id, JSON.stringify(s)]))
  const is = new Set(after.map((s) => s.id))
  const names = after.filter((s) => was.get(s.id) !== JSON.stringify(s)).map((s) => s.name)
  for (const s of before) if (!is.has(s.id)) names.push(`${s.name} (left out)`)
  const order = (steps: Step[]) => steps.map((s) => s.id).join()
  if (names.length === 0 && order(before) !== order(after)) names.push('the order of the steps')
  return names
}

// useRecipe holds a recipe that is being changed: every change can be undone,
// and what it would come to is asked of the server as it changes.
export function useRecipe(product: () => Schemas['Detail'] | undefined) {
  const form = ref<Form | null>(null)
  const past = ref<string[]>([])
  const future = ref<string[]>([])
  const basedOn = ref(0)
  let basedOnRecipe = 0
  const selected = ref('')

  const saved = computed(() => {
    const p = product()
    return p ? JSON.stringify(formOf(p.draft)) : ''
  })
  const now = computed(() => (form.value ? JSON.stringify(form.value) : saved.value))
  const dirty = computed(() => form.value !== null && now.value !== saved.value)

  function reset() {
    form.value = null
    past.value = []
    future.value = []
  }
  // Another product, or a version saved elsewhere while nothing is changed here:
  // begin from it. What was saved elsewhere of the product and not of its recipe is no matter here.
  watch(
    () => `${product()?.id ?? 0}:${product()?.version ?? 0}`,
    () => {
      const p = product()
      if (!dirty.value) reset()
      else if (p?.recipeNumber === basedOnRecipe) basedOn.value = p.version
    },
  )
  // overtaken says what you and somebody else have changed in the same recipe meanwhile.
  const overtaken = computed(() => {
    const p = product()
    const first = past.value[0]
    if (!p || !form.value || first === undefined || p.version === basedOn.value) return null
    const base = JSON.parse(first) as Form
    return { yours: changedSteps(base.steps, form.value.steps), theirs: changedSteps(base.steps, p.draft.steps) }
  })

  function change(edit: (form: Form) => void) {
    const p = product()
    if (!p) return
    const before = form.value ?? formOf(p.draft)
    if (!form.value) {
      basedOn.value = p.version
      basedOnRecipe = p.recipeNumber
    }
    past.value.push(JSON.stringify(before))
    future.value = []
    const next = copy(before)
    edit(next)
    form.value = next
  }
  function step(from: string[], to: string[]) {
    const text = from.pop()
    if (text === undefined || !form.value) return
    to.push(JSON.stringify(form.value))
    form.value = JSON.parse(text) as Form
  }
  const undo = () => step(past.value, future.value)
  const redo = () => step(future.value, past.value)

  const { data: tried, error } = useAsked(
    '/api/products/{id}/recipe/try',
    () => (dirty.value ? (JSON.parse(now.value) as Form) : null),
    {
      params: () => ({ path: { id: product()?.id ?? 0 } }),
      enabled: dirty,
      keep: true,
    },
  )
  const draft = computed(() => (dirty.value && tried.value ? tried.value : product()?.draft))
  // fields are what the server finds wrong with the recipe as it is now, by path.
  const fields = computed<Record<string, string>>(() =>
    dirty.value && error.value instanceof Trouble ? error.value.fields : {},
  )
  const refusal = computed(() => (dirty.value && error.value ? error.value.message : ''))
  const steps = computed(() => form.value?.steps ?? product()?.draft.steps ?? [])
  const index = computed(() => steps.value.findIndex((s) => s.id === selected.value))

  return {
    form,
    steps,
    selected,
    index,
    draft,
    dirty,
    fields,
    refusal,
    basedOn,
    overtaken,
    past,
    future,
    change,
    undo,
    redo,
    reset,
  }
}
