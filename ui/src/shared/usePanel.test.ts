import { expect, test } from 'vitest'
import { usePanel } from './usePanel'

test('a button opens its panel, and shuts it again', () => {
  const { panel, toggle } = usePanel<'count' | 'off'>()
  toggle('count')
  expect(panel.value).toBe('count')
  toggle('off')
  expect(panel.value).toBe('off')
  toggle('off')
  expect(panel.value).toBe('')
})

test('what was saved shuts its own panel, and not the one opened meanwhile', () => {
  const { panel, toggle, shut } = usePanel<'count' | 'off'>()
  toggle('count')
  toggle('off')
  shut('count')
  expect(panel.value).toBe('off')
  shut('off')
  expect(panel.value).toBe('')
})

test('another thing on the page shuts whatever is open', () => {
  const { panel, toggle, shut } = usePanel<'count'>()
  toggle('count')
  shut()
  expect(panel.value).toBe('')
})
