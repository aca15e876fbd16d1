import { ref } from 'vue'
import type { Schemas } from '../api/client'

// How the studio is used to reading times, dates, numbers and money. The server
// writes by the same habit (core/habit); both are held to core/habit/testdata/written.json.
export type Habit = Schemas['Habit']

export const habit = ref<Habit>({
  clock: '24h',
  firstWeekday: 1,
  dateOrder: 'dmy',
  decimalSign: 'point',
  currencySign: '',
  signFirst: false,
})

// written puts the studio's decimal sign into figures that are written with a point.
export const written = (figures: string) =>
  habit.value.decimalSign === 'comma' ? figures.replaceAll('.', ',') : figures

// figure is a number with so many decimals, or with those that it has.
export const figure = (value: number, places?: number) =>
  written(places === undefined ? String(value) : value.toFixed(places))

// timeOfDay writes a time such as 14:10 by the studio's clock: 14:10 or 2:10 PM.
export function timeOfDay(time: string): string {
  if (habit.value.clock === '24h') return time
  const [hour = 0, minute = '00'] = time.split(':').map((part, i) => (i ? part : Number(part))) as [number, string]
  return `${hour % 12 || 12}:${minute} ${hour < 12 ? 'AM' : 'PM'}`
}

// hourOfDay writes a full hour: 14:00 or 2 PM.
export const hourOfDay = (time: string) => timeOfDay(time).replace(/:00(?= )/, '')

// The order of a date's parts for who picks one.
export const dateFormat = () => ({ dmy: 'DD/MM/YYYY', mdy: 'MM/DD/YYYY', ymd: 'YYYY-MM-DD' })[habit.value.dateOrder]

// signOf is how a currency's sign is written in a language.
export function signOf(currency: string, locale: string): string {
  try {
    const parts = new Intl.NumberFormat(locale, { style: 'currency', currency, currencyDisplay: 'narrowSymbol' })
    return parts.formatToParts(1).find((p) => p.type === 'currency')?.value ?? ''
  } catch {
    return ''
  }
}

// habitOf is what people are used to where a browser's language is spoken.
export function habitOf(locale: string, currency: string): Habit {
  const parts = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(locale, options).formatToParts(Date.UTC(2027, 2, 5, 14, 10)).map((p) => p.type)
  const order = parts({ year: 'numeric', month: '2-digit', day: '2-digit' })
    .filter((type) => type === 'year' || type === 'month' || type === 'day')
    .map((type) => type[0])
    .join('')
  const number = new Intl.NumberFormat(locale).formatToParts(1.5)
  const money = new Intl.NumberFormat(locale, { style: 'currency', currency }).formatToParts(1).map((p) => p.type)
  return {
    clock: parts({ hour: 'numeric', minute: '2-digit' }).includes('dayPeriod') ? '12h' : '24h',
    firstWeekday: firstWeekdayOf(locale),
    dateOrder: order === 'mdy' || order === 'ymd' ? order : 'dmy',
    decimalSign: number.some((p) => p.type === 'decimal' && p.value === ',') ? 'comma' : 'point',
    currencySign: signOf(currency, locale),
    signFirst: money.indexOf('currency') < money.indexOf('integer'),
  }
}

function firstWeekdayOf(locale: string): number {
  const known = new Intl.Locale(locale) as Intl.Locale & {
    getWeekInfo?: () => { firstDay: number }
    weekInfo?: { firstDay: number }
  }
  return ((known.getWeekInfo?.() ?? known.weekInfo)?.firstDay ?? 1) % 7
}
