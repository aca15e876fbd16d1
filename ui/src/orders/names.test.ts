import { expect, test } from 'vitest'
import { namesIn } from './names'

test('names come from the column that is headed so, or from the first', () => {
  expect(namesIn('Marit\nOsric\r\nFenna').names).toEqual(['Marit', 'Osric', 'Fenna'])
  expect(namesIn('\uFEFFseat;name\n1;Marit\n2;Osric').names).toEqual(['Marit', 'Osric'])
  expect(namesIn('Marit\tbow\nOsric\ttwo').names).toEqual(['Marit', 'Osric'])
  expect(namesIn('"Hale, coach",x\n"the ""Heron""",y').names).toEqual(['Hale, coach', 'the "Heron"'])
})

test('what is empty and what comes twice is said', () => {
  expect(namesIn('Marit\n\n  \nMarit\nJuno')).toEqual({ names: ['Marit', 'Marit', 'Juno'], empty: 2, twice: ['Marit'] })
  expect(namesIn('')).toEqual({ names: [], empty: 0, twice: [] })
})

test('a table of 5,000 names is read', () => {
  const text = Array.from({ length: 5000 }, (_, i) => `Rower ${i}`).join('\n')
  expect(namesIn(text).names).toHaveLength(5000)
})
