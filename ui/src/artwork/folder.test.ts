import { expect, test } from 'vitest'
import { byName, matched } from './folder'

const piece = (lettering: string, taken = false) => ({ lettering, taken })

test('pictures go to the pieces whose names they bear, the others in order', () => {
  const pieces = [piece('Bow · Marit'), piece('Ann'), piece('Joanna'), piece('')]
  const files = ['10 last.jpg', 'joanna.png', 'ann.jpg', 'bow-marit (2).jpg'].map((name, id) => ({ name, id }))
  const given = Object.fromEntries(matched(pieces, files).map(({ piece, id }) => [piece.lettering, id]))
  expect(given).toEqual({ 'Bow · Marit': 3, Joanna: 1, Ann: 2, '': 0 })
})

test('a piece that has a picture gets another only by its name', () => {
  const pieces = [piece('Marit', true), piece('', true), piece('')]
  const given = matched(pieces, [
    { name: 'a.png', id: 1 },
    { name: 'b.png', id: 2 },
  ])
  expect(given.map((g) => g.id)).toEqual([1])
  expect(given[0]!.piece).toBe(pieces[2])
  expect(matched(pieces, [{ name: 'MARIT.png', id: 7 }])[0]).toEqual({ piece: pieces[0], id: 7 })
})

test('numbers in names count as numbers', () => {
  expect(
    ['b10.png', 'b9.png', 'A1.png']
      .map((name) => ({ name }))
      .sort(byName)
      .map((f) => f.name),
  ).toEqual(['A1.png', 'b9.png', 'b10.png'])
})
