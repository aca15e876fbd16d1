import { ref } from 'vue'
import { habit, timeOfDay } from './habit'

// zone is the workshop's time zone; all times are shown in it.
export const zone = ref('Etc/UTC')

export type Moment = string | number | Date

const ms = (t: Moment) => new Date(t).getTime()

// The wall clock of a place is as many minutes before UTC's for a quarter of an
// hour at least, so each quarter is asked for once: the browser's own answer is slow.
const quarter = 15 * 60_000
let ahead = { zone: '', format: null as Intl.DateTimeFormat | null, by: new Map<number, number>() }

function aheadOf(t: number): number {
  // until the workshop is known nothing is asked for
  if (zone.value === 'Etc/UTC') return 0
  if (ahead.zone !== zone.value)
    ahead = {
      zone: zone.value,
      format: new Intl.DateTimeFormat('en-GB', {
        timeZone: zone.value,
        hourCycle: 'h23',
        year: 'numeric',
        month: 'numeric',
        day: 'numeric',
        hour: 'numeric',
        minute: 'numeric',
      }),
      by: new Map(),
    }
  const at = Math.floor(t / quarter)
  let by = ahead.by.get(at)
  if (by === undefined) {
    const part = Object.fromEntries(ahead.format!.formatToParts(at * quarter).map((p) => [p.type, Number(p.value)]))
    by = Date.UTC(part.year!, part.month! - 1, part.day, part.hour, part.minute) - at * quarter
    ahead.by.set(at, by)
  }
  return by
}

// onTheWall is 2027-03-01T13:50 in the workshop's zone.
function onTheWall(t: Moment): string {
  const at = ms(t)
  return new Date(at + aheadOf(at)).toISOString()
}

// timeOn is the time in the workshop's zone as it is kept in forms: 13:50.
export const timeOn = (t: Moment) => onTheWall(t).slice(11, 16)

// clock writes 13:50, or 1:50 PM where people are used to that.
export const clock = (t: Moment) => timeOfDay(timeOn(t))

// dateOf writes 2027-03-01, the day in the workshop's zone.
export const dateOf = (t: Moment) => onTheWall(t).slice(0, 10)

// addDays moves a date such as 2027-03-01 on.
export function addDays(date: string, days: number): string {
  const d = new Date(`${date}T12:00:00Z`)
  d.setUTCDate(d.getUTCDate() + days)
  return d.toISOString().slice(0, 10)
}

const daysBetween = (from: string, to: string) =>
  Math.round((Date.parse(`${to}T12:00:00Z`) - Date.parse(`${from}T12:00:00Z`)) / 86400000)

const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday']
const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]

interface Parts {
  weekday?: 'long' | 'short'
  month?: 'long' | 'short'
  year?: boolean
}
const word = (name: string, how: 'long' | 'short') => (how === 'short' ? name.slice(0, 3) : name)

// named writes a date in words, its parts in the studio's order.
function named(date: string, { weekday, month, year }: Parts): string {
  const d = new Date(`${date}T12:00:00Z`)
  const day = String(d.getUTCDate())
  const order = habit.value.dateOrder
  const ofMonth = month && word(months[d.getUTCMonth()]!, month)
  const words = ofMonth ? (order === 'dmy' ? `${day} ${ofMonth}` : `${ofMonth} ${day}`) : day
  const inYear = d.getUTCFullYear()
  const dated = { dmy: `${words} ${inYear}`, mdy: `${words}, ${inYear}`, ymd: `${inYear} ${words}` }
  return [weekday && word(weekdays[d.getUTCDay()]!, weekday), year ? dated[order] : words].filter(Boolean).join(' ')
}

// dayName writes a date as people say it: today, tomorrow, Friday, Fri 14 May; far off it has its year.
export function dayName(date: string, today: string): string {
  const days = daysBetween(today, date)
  if (days === 0) return 'today'
  if (days === 1) return 'tomorrow'
  if (days === -1) return 'yesterday'
  if (days > 1 && days < 7) return weekdays[new Date(`${date}T12:00:00Z`).getUTCDay()]!
  if (Math.abs(days) > 300) return named(date, { month: 'short', year: true })
  return named(date, { weekday: 'short', month: 'short' })
}

// shortDay writes Fri 14, longDay Friday 14 May.
export const shortDay = (date: string) => named(date, { weekday: 'short' })
export const longDay = (date: string) => named(date, { weekday: 'long', month: 'long' })

// numbered writes a date in figures, in the studio's order: 31/05/2027.
export function numbered(date: string): string {
  const [year, month, day] = date.split('-')
  return { dmy: `${day}/${month}/${year}`, mdy: `${month}/${day}/${year}`, ymd: date }[habit.value.dateOrder]
}

// moment writes a time as people say it from now: 13:50, 07:40 tomorrow, Friday 08:30.
export function moment(t: Moment, now: Moment): string {
  const today = dateOf(now)
  const day = dayName(dateOf(t), today)
  if (day === 'today') return clock(t)
  if (day === 'tomorrow' || day === 'yesterday') return `${clock(t)} ${day}`
  return `${day} ${clock(t)}`
}

export const minutesBetween = (from: Moment, to: Moment) => (ms(to) - ms(from)) / 60000

// stopwatch writes 0:26:40.
export function stopwatch(seconds: number): string {
  const s = Math.max(0, Math.floor(seconds))
  const two = (n: number) => String(n).padStart(2, '0')
  return `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`
}

// momentIn is the instant of a wall-clock time such as 2027-03-01 and 13:50 in
// the workshop's zone. A time that daylight saving skips is the one after it.
export function momentIn(date: string, time: string): Date {
  const wanted = Date.parse(`${date}T${time}:00Z`)
  let guess = wanted
  for (let i = 0; i < 2; i++) {
    const shown = Date.parse(`${dateOf(guess)}T${timeOn(guess)}:00Z`)
    guess += wanted - shown
  }
  return new Date(guess)
}
