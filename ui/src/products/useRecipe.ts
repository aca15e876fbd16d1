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
  let last: Promise<Form | undefined> = Promise.resolve(undefined)
  // edit makes a change that the server works out. One waits for the other, and
  // what is typed meanwhile is not lost: then it is asked again.
  function edit(make: (form: Form) => Promise<Form>): Promise<Form | undefined> {
    const id = product()?.id
    const made = async () => {
      while (product() && product()?.id === id) {
        const before = now.value
        const after = await make(JSON.parse(before) as Form)
        if (now.value !== before) continue
        if (JSON.stringify(after.steps) !== JSON.stringify((JSON.parse(before) as Form).steps))
          change((f) => (f.steps = after.steps))
        return after
      }
      return undefined
    }
    last = last.then(made, made)
    return last
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
    edit,
    undo,
    redo,
    reset,
  }
}
