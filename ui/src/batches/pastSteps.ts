import type { Schemas } from '../api/client'
import { dateOf, momentIn, timeOn } from '../shared/time'

// A step of a batch made before, as it is typed.
export interface PastRow {
  name: string
  date: string
  time: string
  minutes: number
  lost: number[]
  reason: string
}

export const rowsOf = (steps: Schemas['ProposedStep'][]): PastRow[] =>
  steps.map((s) => ({
    name: s.name,
    date: dateOf(s.startedAt),
    time: timeOn(s.startedAt),
    minutes: s.minutes,
    lost: [],
    reason: '',
  }))

const startOf = (r: PastRow) => (r.time ? momentIn(r.date, r.time).getTime() : NaN)

// shifted moves the rows after one along by as much as that one was moved.
export function shifted(rows: PastRow[], index: number, to: { date: string; time: string }): PastRow[] {
  const by = startOf({ ...rows[index]!, ...to }) - startOf(rows[index]!)
  return rows.map((r, i) => {
    if (i === index) return { ...r, ...to }
    const start = startOf(r)
    if (i < index || Number.isNaN(by) || Number.isNaN(start)) return r
    return { ...r, date: dateOf(start + by), time: timeOn(start + by) }
  })
}

// doneBy is how many steps, from the first on, were over by a moment.
export function doneBy(rows: PastRow[], now: number): number {
  const at = rows.findIndex((r) => !(startOf(r) + r.minutes * 60000 <= now))
  return at < 0 ? rows.length : at
}

// leftAt lists the pieces, of so many, that were still there when a step began.
export function leftAt(rows: PastRow[], index: number, pieces: number): number[] {
  const gone = new Set(rows.slice(0, index).flatMap((r) => r.lost))
  return Array.from({ length: pieces }, (_, i) => i + 1).filter((n) => !gone.has(n))
}

// lastOf are the last so many of the pieces: what no order wanted goes first.
export const lastOf = (left: number[], count: number) => left.slice(Math.max(0, left.length - Math.max(0, count)))

export const stepBody = (r: PastRow): Schemas['PastStep'] => ({
  startedAt: momentIn(r.date, r.time).toISOString(),
  minutes: Math.round(r.minutes),
  lost: r.lost,
  reason: r.lost.length ? r.reason.trim() : '',
})
