import createClient, { type Middleware } from 'openapi-fetch'
import { reactive } from 'vue'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

// Trouble is a refusal by the server, with the field each message belongs to.
export class Trouble extends Error {
  constructor(
    readonly status: number,
    readonly type: string,
    message: string,
    readonly fields: Record<string, string>,
  ) {
    super(message)
  }
}

// connection says whether the last request reached a server that could answer.
export const connection = reactive({ lost: false, message: '' })

const client = createClient<paths>({ baseUrl: '' })

const watchConnection: Middleware = {
  onResponse({ response }) {
    connection.lost = response.status === 503 || response.status === 502
    connection.message = connection.lost ? 'The database is not reached just now.' : ''
  },
  onError() {
    connection.lost = true
    connection.message = 'Tidy Kiln is not reached just now.'
  },
}
client.use(watchConnection)

export const api = client

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

// answerOf gives the data of a request, or throws the Trouble it met.
export async function answerOf<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await request
  } catch {
    throw new Trouble(0, '', `${connection.message} What you typed is kept; try again in a moment.`, {})
  }
  if (answer.response.ok) return answer.data as T
  const problem = (answer.error ?? {}) as Partial<Schemas['Problem']>
  const fields: Record<string, string> = {}
  for (const e of problem.errors ?? []) fields[e.location.replace(/^body\.?/, '')] ??= e.message
  throw new Trouble(answer.response.status, problem.type ?? '', problem.detail ?? 'Something went wrong.', fields)
}
