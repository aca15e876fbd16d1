import { describe, expect, it } from 'vitest'
import { byKind, byStep, percentOf, type CostLine } from './costs'

const line = (kind: CostLine['kind'], stepId: string, amount: string): CostLine => ({
  kind,
  stepId,
  step: stepId,
  name: kind,
  how: '',
  amount,
})
const lines = [
  line('labour', 'lay', '2.0000'),
  line('materials', 'lay', '1.2500'),
  line('labour', 'pack', '0.5000'),
  line('spoils', 'lay', '0.0000'),
]

describe('the lines of a cost', () => {
  it('are split by kind, in the order they are drawn', () => {
    expect(byKind(lines).map((s) => [s.name, s.amount])).toEqual([
      ['Materials', 1.25],
      ['Your time', 2.5],
    ])
  })
  it('are split by step, in the order of the work', () => {
    expect(byStep(lines).map((s) => [s.name, s.amount])).toEqual([
      ['lay', 3.25],
      ['pack', 0.5],
    ])
  })
  it('are shares of a whole', () => {
    expect(percentOf(1, 4)).toBe(25)
    expect(percentOf(1, 0)).toBe(0)
  })
})
