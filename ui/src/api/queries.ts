import { QueryClient } from '@tanstack/vue-query'
import { Trouble } from './client'
import { reads, type Topic } from './topics'

// queryClient holds what the pages have read. What was read stays good until
// something it is made from is written.
export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5000,
      // A refusal stays one; a server that is away may come back.
      retry: (count, error) => count < 2 && !(error instanceof Trouble && error.status >= 400 && error.status < 500),
    },
  },
})

// Answers that move with the clock though nothing is written are read again now and then.
const byTheClock = new Set([
  '/api/today',
  '/api/plan',
  '/api/orders',
  '/api/orders/{id}',
  '/api/lots/{id}',
  '/api/batches/{id}',
  '/api/needs',
])
export const everySoOften = (path: string) => (byTheClock.has(path) ? 30000 : false)

const madeFrom = (path: unknown): readonly Topic[] => reads[path as keyof typeof reads] ?? []

// readAgain reads what pages show again where it is made from what was touched; all of it without topics.
export function readAgain(touched?: readonly string[]): Promise<void> {
  if (!touched) return queryClient.invalidateQueries()
  return queryClient.invalidateQueries({
    predicate: ({ queryKey }) => madeFrom(queryKey[0]).some((topic) => touched.includes(topic)),
  })
}

// readClock reads again what has moved with the clock.
export const readClock = () =>
  queryClient.invalidateQueries({ predicate: ({ queryKey }) => byTheClock.has(String(queryKey[0])) })
