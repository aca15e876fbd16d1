// Choice is one of the things that can be chosen, with the name it goes by.
export interface Choice<T> {
  value: T
  name: string
  group?: string
}

// choicesOf are the choices of a list of names by key, in its order.
export const choicesOf = <K extends string>(names: Partial<Record<K, string>>): Choice<K>[] =>
  Object.entries(names).map(([value, name]) => ({ value: value as K, name: name as string }))

// Grouped are the choices under one heading, or under none, each with its place among all.
export interface Grouped {
  name: string
  at: { place: number; name: string }[]
}

export function grouped(choices: Choice<unknown>[]): Grouped[] {
  const groups: Grouped[] = []
  choices.forEach((c, i) => {
    const of = groups.find((g) => g.name === (c.group ?? ''))
    const at = { place: i, name: c.name }
    if (of) of.at.push(at)
    else groups.push({ name: c.group ?? '', at: [at] })
  })
  return groups
}
