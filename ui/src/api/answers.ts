import { keepPreviousData, useQuery } from '@tanstack/vue-query'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { answerOf, api } from './client'
import { everySoOften } from './queries'
import type { paths } from './schema'
import type { reads } from './topics'

type Read = keyof typeof reads & keyof paths

type JSONOf<Operation> = Operation extends { responses: { 200: { content: { 'application/json': infer T } } } }
  ? T
  : never
type ParametersOf<Operation> = Operation extends { parameters: infer P }
  ? { [K in 'path' | 'query' as K extends keyof P ? K : never]?: K extends keyof P ? P[K] : never }
  : never
type BodyOf<Operation> = Operation extends { requestBody: { content: { 'application/json': infer T } } } ? T : never

// How an answer is read: whether at all, whether the one before stays while
// another is on its way, and how often though nothing is written.
export interface Reading<T> {
  enabled?: MaybeRefOrGetter<boolean>
  keep?: boolean
  again?: (answer: T | undefined) => number | false
}

function useRead<T>(
  key: () => readonly [path: Read, ...rest: unknown[]],
  read: (signal: AbortSignal) => Promise<T>,
  how: Reading<T>,
) {
  return useQuery({
    queryKey: computed(key),
    queryFn: ({ signal }) => read(signal),
    // An answer is replaced as a whole, never changed: what is in it need not be watched.
    shallow: true,
    enabled: computed(() => toValue(how.enabled) ?? true),
    // vue-query wants to know of a placeholder whatever the type of the answer is.
    placeholderData: (how.keep ? keepPreviousData : undefined) as undefined,
    refetchInterval: (query) => how.again?.(query.state.data as T | undefined) ?? everySoOften(key()[0]),
  })
}

// useAnswer reads what a route answers, and again when something it is made from was written.
export function useAnswer<P extends Read>(
  path: P,
  params?: MaybeRefOrGetter<ParametersOf<paths[P]['get']>>,
  how: Reading<JSONOf<paths[P]['get']>> = {},
) {
  const read = (signal: AbortSignal) =>
    answerOf(api.GET(path as never, { params: toValue(params), signal } as never)) as Promise<JSONOf<paths[P]['get']>>
  return useRead(() => [path, toValue(params) ?? {}], read, how)
}

// useAsked is useAnswer for a question that is sent: what would be.
export function useAsked<P extends Read>(
  path: P,
  body: MaybeRefOrGetter<BodyOf<paths[P]['post']> | null>,
  how: Reading<JSONOf<paths[P]['post']>> & { params?: MaybeRefOrGetter<ParametersOf<paths[P]['post']>> } = {},
) {
  const ask = (signal: AbortSignal) =>
    answerOf(api.POST(path as never, { params: toValue(how.params), body: toValue(body), signal } as never)) as Promise<
      JSONOf<paths[P]['post']>
    >
  return useRead(() => [path, toValue(how.params) ?? {}, toValue(body)], ask, how)
}
