import type { Middleware } from 'openapi-fetch'

// Every change carries a key under which the server carries it out once only.
// A change whose outcome is not known (no answer, or a server in trouble) keeps
// its key: sent again, also with other content, it cannot be done twice
// unnoticed. A change that was answered gives its key up.

interface Attempt {
  key: string
  content: string
  open: boolean
}

const attempts = new Map<string, Attempt>()
const keys = new WeakMap<Request, { place: string; attempt: Attempt }>()

function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')
}

// keyFor gives the key of a change to a place: the one of an attempt before
// that is not known to have ended, else a new one.
export function keyFor(place: string, content: string): Attempt {
  const before = attempts.get(place)
  if (before && (!before.open || before.content === content)) {
    Object.assign(before, { content, open: true })
    return before
  }
  const attempt = { key: newKey(), content, open: true }
  attempts.set(place, attempt)
  return attempt
}

// ended notes how an attempt went.
export function ended(place: string, attempt: Attempt, known: boolean) {
  attempt.open = false
  if (known && attempts.get(place) === attempt) attempts.delete(place)
}

export const onceOnly: Middleware = {
  async onRequest({ request }) {
    if (request.method === 'GET') return
    const place = `${request.method} ${new URL(request.url).pathname}`
    const attempt = keyFor(place, await request.clone().text())
    request.headers.set('Idempotency-Key', attempt.key)
    keys.set(request, { place, attempt })
  },
  onResponse({ request, response }) {
    const k = keys.get(request)
    if (k) ended(k.place, k.attempt, response.status < 500)
  },
  onError({ request }) {
    const k = keys.get(request)
    if (k) ended(k.place, k.attempt, false)
  },
}
