import { expect, test } from 'vitest'
import { nextTick, ref } from 'vue'
import { merge, useDraft } from './draft'

test('what only one of two changed is theirs or yours, what both changed is named', () => {
  const base = { name: 'a', price: '1', note: 'n', hours: [1, 2] }
  const mine = { ...base, name: 'mine', note: 'mine' }
  const theirs = { ...base, price: '2', note: 'theirs', hours: [1, 2, 3] }
  expect(merge(base, mine, theirs)).toEqual({
    merged: { name: 'mine', price: '2', note: 'mine', hours: [1, 2, 3] },
    clashes: ['note'],
  })
  expect(merge(base, theirs, theirs)).toEqual({ merged: theirs, clashes: [] })
})

test('a form follows what others save, keeps what was typed, and asks where both changed the same', async () => {
  const source = ref({ name: 'a', note: 'n', version: 1 })
  const draft = useDraft(
    () => source.value,
    ({ name, note }) => ({ name, note }),
  )
  source.value = { name: 'b', note: 'n', version: 2 }
  await nextTick()
  expect(draft.form.value).toEqual({ name: 'b', note: 'n' })
  expect(draft.dirty.value).toBe(false)

  draft.form.value!.note = 'mine'
  source.value = { name: 'c', note: 'theirs', version: 3 }
  await nextTick()
  expect(draft.form.value).toEqual({ name: 'c', note: 'mine' })
  expect(draft.clashes.value).toEqual([{ field: 'note', yours: 'mine', theirs: 'theirs' }])
  expect(draft.version.value).toBe(3)

  source.value = { name: 'd', note: 'theirs', version: 4 }
  await nextTick()
  expect(draft.clashes.value).toHaveLength(1)
  draft.takeTheirs('note')
  expect(draft.form.value).toEqual({ name: 'd', note: 'theirs' })
  expect(draft.clashes.value).toEqual([])
})

test('keeping yours settles the question', async () => {
  const source = ref({ name: 'a', version: 1 })
  const draft = useDraft(
    () => source.value,
    ({ name }) => ({ name }),
  )
  draft.form.value!.name = 'mine'
  source.value = { name: 'theirs', version: 2 }
  await nextTick()
  draft.keepMine('name')
  expect([draft.form.value, draft.clashes.value, draft.dirty.value]).toEqual([{ name: 'mine' }, [], true])
})
