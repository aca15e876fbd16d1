import { addDays, dateOf, momentIn } from '../shared/time'
import { hourOfDay } from '../shared/habit'
import type { Day } from './queries'

const hour = 3600000

// Scale turns a moment of a day that runs from 05:00 to 05:00 into a share of
// its width, or of the night and the day after it. Working hours, the same stretch of the clock for all days shown
// together, get two thirds of the width.
export interface Scale {
  at: (t: number) => number
  // moment is the other way round: what moment stands at a share of the width.
  moment: (share: number) => number
  ticks: { share: number; label: string }[]
}

const twoThirds = 2 / 3

// workingWindow is the stretch, in hours after 05:00, that holds all days' open hours.
export function workingWindow(days: Day[]): [number, number] | null {
  let from = 24
  let to = 0
  for (const day of days) {
    for (const open of day.open) {
      from = Math.min(from, (Date.parse(open.start) - Date.parse(day.start)) / hour)
      to = Math.max(to, (Date.parse(open.end) - Date.parse(day.start)) / hour)
    }
  }
  return to > from ? [Math.max(0, from), Math.min(24, to)] : null
}

export function scaleOf(day: Day, window: [number, number] | null): Scale {
  const start = Date.parse(day.start)
  const length = (Date.parse(day.end) - start) / hour
  const [from, to] = window ?? [0, length]
  const outside = Math.max(0.001, length - (to - from))
  const inner = to - from >= length ? 1 : twoThirds
  const outer = (1 - inner) / outside
  const share = (h: number) => {
    const clipped = Math.min(length, Math.max(0, h))
    const before = Math.min(clipped, from) * outer
    const within = Math.max(0, Math.min(clipped, to) - from) * (inner / (to - from))
    const after = Math.max(0, clipped - to) * outer
    return before + within + after
  }
  const at = (t: number) => share((t - start) / hour)
  return { at, moment: (of) => momentAt(of, at, start, Date.parse(day.end)), ticks: ticksOf(day, share, from, to) }
}

// momentAt finds, to the second, when a scale that only grows reaches a share.
function momentAt(of: number, at: (t: number) => number, from: number, to: number): number {
  while (to - from > 1000) {
    const middle = (from + to) / 2
    if (at(middle) < of) from = middle
    else to = middle
  }
  return to
}

// ticksOf labels the hours: each working hour, and outside as many as have room.
function ticksOf(day: Pick<Day, 'start' | 'end'>, share: (h: number) => number, from: number, to: number) {
  const [start, end] = [Date.parse(day.start), Date.parse(day.end)]
  const hours: { share: number; label: string; working: boolean }[] = []
  for (let date = dateOf(start); date <= dateOf(end); date = addDays(date, 1)) {
    for (let h = 0; h < 24; h++) {
      const time = `${String(h).padStart(2, '0')}:00`
      const at = momentIn(date, time).getTime()
      if (at < start || at >= end) continue
      const since = (at - start) / hour
      hours.push({ share: share(since), label: hourOfDay(time), working: since >= from && since <= to })
    }
  }
  const ticks: { share: number; label: string }[] = []
  for (const { share, label } of [...hours.filter((h) => h.working), ...hours.filter((h) => !h.working)]) {
    if (share <= 0.96 && ticks.every((t) => Math.abs(t.share - share) > 0.048)) ticks.push({ share, label })
  }
  return ticks.sort((a, b) => a.share - b.share)
}

// lanes lays spans out so that none overlaps another in its lane.
export function lanes<T extends { start: string; end: string }>(items: T[]): { item: T; lane: number }[] {
  const ends: number[] = []
  return items.map((item) => {
    const start = Date.parse(item.start)
    let lane = ends.findIndex((end) => end <= start)
    if (lane < 0) lane = ends.length
    ends[lane] = Date.parse(item.end)
    return { item, lane }
  })
}
