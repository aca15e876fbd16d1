import { describe, expect, it } from 'vitest'
import { changedSteps, freeId, moved, without, type Step } from './useRecipe'

const step = (id: string, inside?: string) => ({ id, inside }) as Step
const ids = (steps: Step[]) => steps.map((s) => s.id).join(' ')

describe('moving steps', () => {
  const steps = [step('sand'), step('lay'), step('sides', 'lay'), step('feet', 'lay'), step('pack')]
  it('takes the steps inside its rest along', () => {
    expect(ids(moved(steps, 1, 1))).toBe('sand pack lay sides feet')
    expect(ids(moved(steps, 1, -1))).toBe('lay sides feet sand pack')
  })
  it('goes around a step with others inside its rest', () =>
    expect(ids(moved(steps, 4, -1))).toBe('sand pack lay sides feet'))
  it('keeps an inside step inside', () => {
    expect(ids(moved(steps, 3, -1))).toBe('sand lay feet sides pack')
    expect(moved(steps, 2, -1)).toBe(steps)
    expect(moved(steps, 3, 1)).toBe(steps)
  })
  it('stops at the ends', () => {
    expect(moved(steps, 0, -1)).toBe(steps)
    expect(moved(steps, 4, 1)).toBe(steps)
    expect(moved(steps, 9, 1)).toBe(steps)
  })
})

describe('removing and naming steps', () => {
  it('lets what was inside its rest follow on its own', () => {
    const left = without([step('lay'), step('sides', 'lay'), step('pack')], 0)
    expect(ids(left)).toBe('sides pack')
    expect(left[0]!.inside).toBeUndefined()
  })
  it('gives a new step an id of its own', () => {
    expect(freeId([step('seal'), step('seal-2')], 'seal')).toBe('seal-3')
    expect(freeId([step('seal')], 'wax')).toBe('wax')
  })
})

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
