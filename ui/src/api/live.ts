import { answerOf, api, connection } from './client'

// How long a stream may be silent, and how long to wait before asking again.
const silence = 25000
const pause = 1500

// follow calls changed whenever something was written, by anybody: told by the
// server's stream, or asked for where the stream fails. A page that nobody sees
// asks for nothing; it catches up when it is looked at.
export async function follow(changed: () => void): Promise<never> {
  let seen = 0
  const at = (revision: number) => {
    if (revision !== seen && seen !== 0) changed()
    seen = revision
  }
  for (;;) {
    await visible()
    await stream(() => seen, at)
    if (document.hidden) continue
    await ask(at, changed)
    await new Promise((resolve) => setTimeout(resolve, pause))
  }
}

function visible(): Promise<void> {
  if (!document.hidden) return Promise.resolve()
  return new Promise((resolve) => document.addEventListener('visibilitychange', () => resolve(), { once: true }))
}

// stream listens until the stream ends, falls silent, or the page is hidden.
function stream(seen: () => number, at: (revision: number) => void): Promise<void> {
  return new Promise((resolve) => {
    const source = new EventSource(seen() ? `/api/changes?since=${seen()}` : '/api/changes')
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
      at(Number((event as MessageEvent<string>).data))
    })
    source.onerror = end
    document.addEventListener('visibilitychange', end)
    // A line that is gone is not always noticed by a stream that only listens.
    window.addEventListener('offline', end)
  })
}

// ask is the fallback for one look. A server that comes back has everything read afresh.
async function ask(at: (revision: number) => void, changed: () => void) {
  const wasLost = connection.lost
  try {
    const { revision } = await answerOf(api.GET('/api/revision'))
    if (wasLost) changed()
    at(revision)
  } catch {
    // The connection says so, and the next look is soon.
  }
}
