import createClient, { type Middleware } from 'openapi-fetch'
import { reactive } from 'vue'
import { takeEarly } from './early'
import { onceOnly } from './once'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

// Trouble is a refusal by the server, with the field each message belongs to,
// and what to send back where it can be agreed to.
export class Trouble extends Error {
  constructor(
    readonly status: number,
    readonly type: string,
    message: string,
    readonly fields: Record<string, string>,
    readonly values: unknown[] = [],
  ) {
    super(message)
  }

  // passing tells that the same request may well succeed in a moment.
  get passing() {
    return this.status === 0 || this.status === 502 || this.status === 503
  }
}

// connection says whether the last request reached a server that could answer,
// and whether one is taking long.
export const connection = reactive({ lost: false, slow: false, message: '' })

const longest = 25000
const unusual = 4000

// An answer that never comes is given up, so that a button can be pressed again.
const fetchInTime = (request: Request) => takeEarly(request) ?? fetch(request, { signal: AbortSignal.timeout(longest) })

const client = createClient<paths>({ baseUrl: '', fetch: fetchInTime })

const waiting = new Map<Request, ReturnType<typeof setTimeout>>()
const slow = new Set<Request>()
function arrived(request: Request) {
  clearTimeout(waiting.get(request))
  waiting.delete(request)
  slow.delete(request)
  connection.slow = slow.size > 0
}

const messages: Record<string, string> = {
  '/problems/database-slow': 'The database takes long to answer just now.',
}

const watchConnection: Middleware = {
  onRequest({ request }) {
    const late = setTimeout(() => {
      slow.add(request)
      connection.slow = true
    }, unusual)
    waiting.set(request, late)
  },
  async onResponse({ request, response }) {
    arrived(request)
    connection.lost = response.status === 503 || response.status === 502
    if (!connection.lost) return
    const problem = (await response
      .clone()
      .json()
      .catch(() => ({}))) as { type?: string }
    connection.message = messages[problem.type ?? ''] ?? 'The database is not reached just now.'
  },
  onError({ request }) {
    arrived(request)
    connection.lost = true
    connection.message = 'Tidy Kiln is not reached just now.'
  },
}
client.use(onceOnly, watchConnection)

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
  const values = (problem.errors ?? []).flatMap((e) => (e.value === undefined ? [] : [e.value]))
  const message = problem.detail ?? 'Something went wrong.'
  throw new Trouble(answer.response.status, problem.type ?? '', message, fields, values)
}
