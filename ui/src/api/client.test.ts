import { expect, test } from 'vitest'
import { answerOf, Trouble } from './client'

const response = (status: number) => new Response(null, { status })

async function troubleOf(request: Promise<{ data?: unknown; error?: unknown; response: Response }>): Promise<Trouble> {
  try {
    await answerOf(request)
  } catch (error) {
    if (error instanceof Trouble) return error
    throw error
  }
  throw new Error('nothing was refused')
}

test('an answer is its data', async () => {
  expect(await answerOf(Promise.resolve({ data: { id: 7 }, response: response(201) }))).toEqual({ id: 7 })
  expect(await answerOf(Promise.resolve({ data: undefined, response: response(204) }))).toBeUndefined()
})

test('a refusal carries each message to its field, the first of several', async () => {
  const problem = {
    type: '/problems/stale',
    title: 'x',
    status: 422,
    detail: 'Please check',
    errors: [
      { location: 'body.lines[0].quantity', message: 'too many' },
      { location: 'body.lines[0].quantity', message: 'again' },
      { location: 'body', message: 'the whole' },
    ],
  }
  const trouble = await troubleOf(Promise.resolve({ error: problem, response: response(422) }))
  expect(trouble.fields).toEqual({ 'lines[0].quantity': 'too many', '': 'the whole' })
  expect([trouble.status, trouble.type, trouble.message]).toEqual([422, '/problems/stale', 'Please check'])
})

test('a server that is away is told as such, and a bare failure still has words', async () => {
  const away = await troubleOf(Promise.reject(new TypeError('failed to fetch')))
  expect(away.status).toBe(0)
  expect(away.message).toContain('What you typed is kept')
  const bare = await troubleOf(Promise.resolve({ response: response(500) }))
  expect(bare.message).toBe('Something went wrong.')
})
