import { describe, expect, it } from 'vitest'
import { changedSteps, type Step } from './useRecipe'

describe('what differs between two recipes', () => {
  const named = (id: string, setupMinutes = 1) => ({ id, name: id, setupMinutes }) as Step
  const steps = [named('sand'), named('lay'), named('pack')]
  it('names steps changed, added and left out', () =>
    expect(changedSteps(steps, [named('sand'), named('lay', 2), named('wax')])).toEqual([
      'lay',
      'wax',
      'pack (left out)',
    ]))
  it('says when only the order is another', () =>
    expect(changedSteps(steps, [steps[1]!, steps[0]!, steps[2]!])).toEqual(['the order of the steps']))
  it('finds nothing in the same', () => expect(changedSteps(steps, [...steps])).toEqual([]))
})
