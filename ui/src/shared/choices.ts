// Choice is one of the things that can be chosen, with the name it goes by.
export interface Choice<T> {
  value: T
  name: string
  group?: string
}

// choicesOf are the choices of a list of names by key, in its order.
export const choicesOf = <K extends string>(names: Partial<Record<K, string>>): Choice<K>[] =>
  Object.entries(names).map(([value, name]) => ({ value: value as K, name: name as string }))
