import type { Schemas } from '../api/client'

// contents says what lies on a shelf in one line: 5 from batch 12, 2 found, “Mara” from batch 9.
export function contents(groups: Schemas['ShelfGroup'][]): string {
  return groups
    .map((g) => {
      const what = g.lettering ? `“${g.lettering}”${g.pieces > 1 ? ` × ${g.pieces}` : ''}` : String(g.pieces)
      return g.batch ? `${what} from batch ${g.batch}` : `${what} found at a count`
    })
    .join(', ')
}

// eachCost is what the pieces of a shelf cost apiece: one amount, or from and to; empty while none is known.
export function eachCost(groups: Schemas['ShelfGroup'][], write: (decimal: string) => string): string {
  const known = groups.flatMap((g) => (g.unitCost == null ? [] : [g.unitCost]))
  if (known.length === 0) return ''
  const inOrder = [...known].sort((a, b) => Number(a) - Number(b))
  const [least, most] = [write(inOrder[0]!), write(inOrder[inOrder.length - 1]!)]
  return least === most ? least : `${least} to ${most}`
}
