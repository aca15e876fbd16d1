import { answerOf, api, connection } from './client'
import { opened } from './door'
import { readAgain } from './queries'

// How long a stream may be silent, and how long to wait before asking again.
const silence = 25000
const pause = 1500

// seen is the revision that the pages are at; 0 before the first is known.
let seen = 0
// reading is what is being read again for it.
let reading: Promise<void> = Promise.resolve()

interface Told {
  revision: number
  touched: string[]
}

// at moves the pages on to a revision, and waits until what was touched since is read again.
function at({ revision, touched }: Told): Promise<void> {
  if (revision !== seen) {
    reading = readAgain(touched)
    seen = revision
  }
  return reading
}

// begin learns where things stood when the first answers were asked for. What the stream
// says first is later, and what was written between the two would not be shown.
async function begin() {
  try {
    seen = (await answerOf(api.GET('/api/revision'))).revision
  } catch {
    // The stream says it, and everything is read again.
  }
}

// follow reads again what the pages show when something it is made from was
// written, by anybody: told by the server's stream, or asked for where the
// stream fails. A page that nobody sees asks for nothing; it catches up when it is looked at.
export async function follow(): Promise<never> {
  await begin()
  for (;;) {
    await visible()
    await opened()
    await stream()
    if (document.hidden) continue
    await ask()
    await new Promise((resolve) => setTimeout(resolve, pause))
  }
}

// catchUp reads again what was touched by now, and waits for it.
export async function catchUp() {
  if (seen === 0) return readAgain() // nobody has said yet where things stood
  try {
    await at(await answerOf(api.GET('/api/revision', { params: { query: { since: seen } } })))
  } catch {
    await readAgain()
  }
}

function visible(): Promise<void> {
  if (!document.hidden) return Promise.resolve()
  return new Promise((resolve) => document.addEventListener('visibilitychange', () => resolve(), { once: true }))
}

// stream listens until the stream ends, falls silent, or the page is hidden.
function stream(): Promise<void> {
  return new Promise((resolve) => {
    const source = new EventSource(seen ? `/api/changes?since=${seen}` : '/api/changes')
    const end = () => {
      clearTimeout(quiet)
      source.close()
      document.removeEventListener('visibilitychange', end)
      window.removeEventListener('offline', end)
      resolve()
    }
    let quiet = setTimeout(end, silence)
    const heard = () => {
      clearTimeout(quiet)
      quiet = setTimeout(end, silence)
    }
    source.addEventListener('beat', heard)
    source.addEventListener('changed', (event) => {
      heard()
      void at(JSON.parse((event as MessageEvent<string>).data) as Told)
    })
    source.onerror = end
    document.addEventListener('visibilitychange', end)
    // A line that is gone is not always noticed by a stream that only listens.
    window.addEventListener('offline', end)
  })
}

// ask is the fallback for one look. A server that comes back has everything read afresh.
async function ask() {
  const wasLost = connection.lost
  try {
    const told = await answerOf(api.GET('/api/revision', { params: { query: { since: seen } } }))
    if (wasLost) {
      seen = told.revision
      await readAgain()
    } else await at(told)
  } catch {
    // The connection says so, and the next look is soon.
  }
}
