import { expect, test, vi } from 'vitest'
import { lastOf, outcome, saving } from './importing'

const imported = { rows: 3, added: 1, changed: 2, same: 0, acts: [], faults: [], wrong: 0, saved: true }

function pieces(...parts: string[]) {
  const encoder = new TextEncoder()
  return new ReadableStream<Uint8Array>({
    start(controller) {
      for (const part of parts) controller.enqueue(encoder.encode(part))
      controller.close()
    },
  })
}

test('an answer is read line by line, however it is cut', async () => {
  const tell = vi.fn()
  const line = JSON.stringify({ import: imported })
  const stream = pieces(
    '{"progress":{"doing":"checking","done":1,"of":3}}\n{"prog',
    'ress":{"doing":"saving","done":3,"of":3}}\n' + line.slice(0, 20),
    line.slice(20) + '\n',
  )
  expect(await lastOf(stream, tell)).toEqual(imported)
  expect(tell.mock.calls.map(([p]) => p.doing)).toEqual(['checking', 'saving'])
})

test('what went wrong on the way is said, and so is an answer that breaks off', async () => {
  const problem = { status: 503, title: 'x', detail: 'The database is not reached just now.', type: '/problems/away' }
  await expect(lastOf(pieces(JSON.stringify({ problem }) + '\n'), () => {})).rejects.toMatchObject({
    status: 503,
    message: problem.detail,
  })
  await expect(lastOf(pieces('{"progress":{"doing":"checking","done":1,"of":3}}\n'), () => {})).rejects.toMatchObject({
    message: expect.stringContaining('broke off'),
  })
})

test('what a file does is said in a sentence', () => {
  expect(outcome(imported, 'materials')).toBe('3 rows: 1 new, 2 changed, 0 as they are')
  expect(outcome({ ...imported, rows: 1, changed: 0, same: 4 }, 'purchases')).toBe('1 row: 1 new, 4 there already')
  expect(saving(imported, 'materials')).toBe('Add 1 material and change 2')
  expect(saving({ ...imported, added: 3, changed: 0 }, 'purchases')).toBe('Add 3 receipts')
})
