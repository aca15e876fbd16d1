import { expect, test } from 'vitest'
import { namesIn, takenIn } from './names'

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

test('it is said what of a table was taken', async () => {
  const file = (text: string) => new File([text], 'crew.csv')
  expect(await takenIn(file('Name\nMarit\n\nOsric\nMarit\nWenna\n'), 3)).toEqual({
    names: ['Marit', 'Osric', 'Marit'],
    said: '3 names taken in. 1 more is left: a line has at most 3, put the rest on another. 1 empty row left out. twice: Marit.',
  })
  expect(await takenIn(file('\n \n'), 3)).toEqual({ names: [], said: '“crew.csv” holds no names that can be read.' })
})
