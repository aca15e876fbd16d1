import { computed, onScopeDispose, ref, watch } from 'vue'
import { useAnswer, useAsked } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { useDraft } from '../shared/draft'
import { say } from '../shared/toast'

type Design = Schemas['Design']
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

// How long a hand must be still before it is asked what a design comes to, in ms, and
// within which time changes of the same thing are one step to undo.
const still = 150
const together = 900

// useDesign is a product's design being worked on: every change is a step that can be
// undone, and the server says what it comes to.
export function useDesign(id: () => number) {
  const path = () => ({ path: { id: id() } })
  const { data: saved, error } = useAnswer('/api/products/{id}/design', path)
  const { act, busy, trouble, fault } = useAct()
  const draft = useDraft(
    () => saved.value,
    (p) => ({ design: copy(p.design), ownPictures: p.ownPictures }),
  )
  const past = ref<Design[]>([])
  const future = ref<Design[]>([])
  let last = { what: '', at: 0 }

  // change makes a change; those of the same thing shortly after each other are one step.
  function change(what: string, to: (d: Design) => Design) {
    const form = draft.form.value
    if (!form) return
    const now = Date.now()
    if (what !== last.what || now - last.at > together) {
      past.value = [...past.value.slice(-99), copy(form.design)]
      future.value = []
    }
    last = { what, at: now }
    form.design = to(copy(form.design))
  }
  function step(from: typeof past, to: typeof past) {
    const form = draft.form.value
    const design = from.value.at(-1)
    if (!form || !design) return
    from.value = from.value.slice(0, -1)
    to.value = [...to.value, copy(form.design)]
    form.design = design
    last = { what: '', at: 0 }
  }
  const undo = () => step(past, future)
  const redo = () => step(future, past)

  // asked is the design as it was a moment ago, which the server has been asked about.
  const asked = ref<Design | null>(null)
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    () => draft.form.value?.design,
    (design) => {
      clearTimeout(timer)
      timer = setTimeout(() => (asked.value = design ? copy(design) : null), still)
    },
    { deep: true },
  )
  onScopeDispose(() => clearTimeout(timer))
  const { data: thought, error: refused } = useAsked(
    '/api/products/{id}/design/ask',
    () => (asked.value ? { design: asked.value } : null),
    { params: path, keep: true, enabled: () => asked.value !== null && draft.dirty.value },
  )
  const page = computed(() => (draft.dirty.value && thought.value?.productId === id() ? thought.value : saved.value))

  async function save() {
    const form = draft.form.value
    if (!form) return
    const body = { ...form, version: draft.version.value }
    const done = await act(() => answerOf(api.PUT('/api/products/{id}/design', { params: path(), body })))
    if (!done) return
    past.value = []
    future.value = []
    say({ text: 'Saved: batches made up from now on are printed like this.' })
  }
  // What keeps a design from being looked at stands beside its field before it is saved, too.
  const faultOf = (field: string) =>
    fault(`design.${field}`) ||
    (refused.value as { fields?: Record<string, string> } | null)?.fields?.[`design.${field}`] ||
    ''

  return { ...draft, page, saved, error, past, future, change, undo, redo, save, busy, trouble, faultOf }
}
