import type { Schemas } from '../api/client'

export type CostLine = Schemas['CostLine']

// The kinds of cost, in the order they are drawn, and what they are called.
export const costKinds: Record<CostLine['kind'], string> = {
  materials: 'Materials',
  print: 'Print',
  packing: 'Packing',
  outside: 'Bought in',
  labour: 'Your time',
  overhead: 'Room and tools',
  spoils: 'Spoils',
}

const sum = (lines: CostLine[]) => lines.reduce((all, l) => all + Number(l.amount), 0)

export interface Share {
  key: string
  name: string
  amount: number
  lines: CostLine[]
}

// byKind and byStep split the lines of a piece's cost; what costs nothing is left out.
export const byKind = (lines: CostLine[]): Share[] =>
  Object.entries(costKinds)
    .map(([key, name]) => ({ key, name, lines: lines.filter((l) => l.kind === key) }))
    .map((s) => ({ ...s, amount: sum(s.lines) }))
    .filter((s) => s.amount > 0)

export function byStep(lines: CostLine[]): Share[] {
  const steps = new Map<string, Share>()
  for (const l of lines) {
    const step = steps.get(l.stepId) ?? { key: l.stepId, name: l.step, amount: 0, lines: [] }
    step.lines.push(l)
    step.amount += Number(l.amount)
    steps.set(l.stepId, step)
  }
  return [...steps.values()]
}

// percentOf says what share of a whole an amount is.
export const percentOf = (amount: number, whole: number) => (whole > 0 ? Math.round((amount / whole) * 100) : 0)
