import type { Schemas } from '../api/client'

// The hours of a machine as they are shown: what is the same on all seven days is one line.
type Hours = Schemas['Hours']
export interface Line {
  // day is a weekday by its number, or every day.
  day: number
  fromMinute: number
  toMinute: number
  // at are the places of its hours among those of the machine.
  at: number[]
}
export const everyDay = -1
const week = [0, 1, 2, 3, 4, 5, 6]

export function linesOf(hours: Hours[]): Line[] {
  const lines: Line[] = []
  hours.forEach((h, i) => {
    const daily = isDaily(hours, h)
    const like = daily && lines.find((l) => l.day === everyDay && sameTime(l, h))
    if (like) like.at.push(i)
    else lines.push({ day: daily ? everyDay : h.weekday, fromMinute: h.fromMinute, toMinute: h.toMinute, at: [i] })
  })
  return lines
}

type Times = Pick<Hours, 'fromMinute' | 'toMinute'>
const sameTime = (a: Times, b: Times) => a.fromMinute === b.fromMinute && a.toMinute === b.toMinute
const isDaily = (hours: Hours[], h: Hours) => week.every((d) => hours.some((o) => o.weekday === d && sameTime(o, h)))

// withLine are the hours with a line as it is to be, in its place; one that is not there
// yet has none, and comes last.
export function withLine(hours: Hours[], line: Line): Hours[] {
  const days = line.day === everyDay ? week : [line.day]
  const own = days.map((weekday) => ({ weekday, fromMinute: line.fromMinute, toMinute: line.toMinute }))
  const place = line.at[0] ?? hours.length
  const others = (from: number, to: number) => hours.slice(from, to).filter((_, i) => !line.at.includes(from + i))
  return [...others(0, place), ...own, ...others(place, hours.length)]
}

export const without = (hours: Hours[], line: Line) => hours.filter((_, i) => !line.at.includes(i))
