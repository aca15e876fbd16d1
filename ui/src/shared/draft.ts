import { computed, ref, watch, type Ref } from 'vue'

type Fields = Record<string, unknown>
const text = (value: unknown) => JSON.stringify(value) ?? ''
const copy = <T>(value: T): T => JSON.parse(text(value)) as T

// leaves are the fields of a form by their paths, such as "blank.width"; a list is one field.
function leaves(form: Fields, at = ''): Map<string, unknown> {
  const all = new Map<string, unknown>()
  for (const [key, value] of Object.entries(form)) {
    const path = at + key
    if (value !== null && typeof value === 'object' && !Array.isArray(value))
      for (const [inner, v] of leaves(value as Fields, `${path}.`)) all.set(inner, v)
    else all.set(path, value)
  }
  return all
}

function put(form: Fields, path: string, value: unknown) {
  const keys = path.split('.')
  const last = keys.pop()!
  let at = form
  for (const key of keys) at = (at[key] ??= {}) as Fields
  at[last] = value === undefined ? undefined : copy(value)
}

// merge brings what somebody else saved into a form that is being filled: a
// field only they changed becomes theirs, one only you changed stays yours, and
// one that both changed stays yours and is named.
export function merge<F extends Fields>(base: F, mine: F, theirs: F): { merged: F; clashes: string[] } {
  const merged = copy(mine)
  const clashes: string[] = []
  const [was, yours, other] = [leaves(base), leaves(mine), leaves(theirs)]
  for (const path of new Set([...was.keys(), ...yours.keys(), ...other.keys()])) {
    const [b, m, t] = [text(was.get(path)), text(yours.get(path)), text(other.get(path))]
    if (t === b || t === m) continue
    if (m === b) put(merged, path, other.get(path))
    else clashes.push(path)
  }
  return { merged, clashes }
}

// at reads the field at a path.
const at = (form: Fields, path: string) => leaves(form).get(path)

export interface Clash {
  field: string
  yours: unknown
  theirs: unknown
}

interface Versioned {
  version: number
}

// useDraft is a form over something that others may change meanwhile. What they
// save flows into the fields you have not touched; where both of you changed
// one, yours stays and the clash is told until you choose.
export function useDraft<S extends Versioned, F extends Fields>(source: () => S | undefined, formOf: (s: S) => F) {
  const form = ref<F | null>(null) as Ref<F | null>
  const version = ref(0)
  const clashes = ref<Clash[]>([])
  let base: F | null = null

  function fill(s: S) {
    base = formOf(s)
    form.value = copy(base)
    version.value = s.version
    clashes.value = []
  }
  function follow(s: S) {
    if (!form.value || !base) return fill(s)
    if (s.version === version.value) return
    const theirs = formOf(s)
    const { merged, clashes: fields } = merge(base, form.value, theirs)
    const untouched = clashes.value.filter(
      (c) => !fields.includes(c.field) && text(at(merged, c.field)) !== text(c.theirs),
    )
    clashes.value = [
      ...untouched,
      ...fields.map((field) => ({ field, yours: at(merged, field), theirs: at(theirs, field) })),
    ]
    form.value = merged
    base = theirs
    version.value = s.version
  }
  watch(
    source,
    (s) => {
      if (s) follow(s)
    },
    { immediate: true },
  )

  const settle = (field: string) => (clashes.value = clashes.value.filter((c) => c.field !== field))
  const keepMine = (field: string) => settle(field)
  function takeTheirs(field: string) {
    const clash = clashes.value.find((c) => c.field === field)
    if (clash && form.value) put(form.value, field, clash.theirs)
    settle(field)
  }
  const dirty = computed(() => form.value !== null && base !== null && text(form.value) !== text(base))

  return { form, version, clashes, dirty, keepMine, takeTheirs, fill }
}
