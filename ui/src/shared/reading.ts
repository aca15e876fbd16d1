// Numbers and durations as people type them. The server reads the same texts by
// the same rules (core/measure); both are held to core/measure/testdata/readings.json.

export const noNumber = 'write a number, such as 2.5'

// Read is what a text says, or why it says nothing.
export type Read = { value: number; fault: '' } | { value: null; fault: string }

const fault = (text: string): Read => ({ value: null, fault: text })
const vulgar: Record<string, string> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅓': '1/3',
  '⅔': '2/3',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
  '⅕': '1/5',
}

// numberIn reads 2.5, 2,5, 1 1/4, ½, 2 300, 1,234.5. A comma before three digits
// could part thousands or decimals, and is asked about, unless things are counted.
export function numberIn(text: string, counted = false): Read {
  const s = text
    .trim()
    .replace(/[½¼¾⅓⅔⅛⅜⅝⅞⅕]/g, (glyph) => ` ${vulgar[glyph]}`)
    .trim()
  if (s.length > 40) return fault(noNumber)
  const mixed = /^(?:(.*\S)\s+)?(\d+)\/(\d+)$/.exec(s)
  if (!mixed) return s.includes('/') ? fault(noNumber) : plain(s, counted)
  const [, whole, top, bottom] = mixed
  if (Number(bottom) === 0) return fault(noNumber)
  const fraction = Number(top) / Number(bottom)
  if (whole === undefined) return { value: fraction, fault: '' }
  const read = plain(whole, counted)
  return read.value === null ? read : { value: read.value + fraction, fault: '' }
}

function plain(text: string, counted: boolean): Read {
  const s = /^\d{1,3}(?:[ '’\u00a0\u202f]\d{3})+(?:[.,]\d+)?$/.test(text)
    ? text.replace(/[ '’\u00a0\u202f]/g, '')
    : text
  if (/^\d+$/.test(s)) return { value: Number(s), fault: '' }
  const single = /^(\d*)([.,])(\d*)$/.exec(s)
  if (single && single[1]! + single[3]! !== '') return withOneSign(s, single[1]!, single[2]!, single[3]!, counted)
  if (!/^(?:\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d{1,3}(?:\.\d{3})+(?:,\d+)?)$/.test(s)) return fault(noNumber)
  const last = Math.max(s.lastIndexOf(','), s.lastIndexOf('.'))
  const digits = (part: string) => part.replace(/[.,]/g, '')
  const many = s.split(s[last]!).length > 2
  return { value: Number(many ? digits(s) : `${digits(s.slice(0, last))}.${s.slice(last + 1)}`), fault: '' }
}

function withOneSign(text: string, before: string, sign: string, after: string, counted: boolean): Read {
  const fraction = Number(`0${before}.${after}0`)
  const thousands = /^[1-9]\d{0,2}$/.test(before) && after.length === 3
  if (!thousands) return { value: fraction, fault: '' }
  const grouped = Number(before + after)
  if (counted) return { value: grouped, fault: '' }
  if (sign === ',') return fault(`${text} could be ${grouped} or ${before}.${after}; write the one that is meant`)
  return { value: fraction, fault: '' }
}

// countIn is how many things a text says; 0 where it says no number, which the
// server refuses where none will not do.
export const countIn = (text: unknown): number => Math.round(numberIn(String(text ?? ''), true).value ?? 0)

// plainDecimal is a number as people type it, with the point that the server
// reads: 10,50 becomes 10.50. What is none, or could be two, stays as it was
// typed, and the server says so beside the field.
export function plainDecimal(text: string): string {
  const typed = text.trim()
  if (/^\d+\.?\d*$/.test(typed)) return typed
  const read = numberIn(typed)
  if (read.value === null) return typed
  return /^\d*,\d*$/.test(typed) ? typed.replace(',', '.') : String(read.value)
}

export const noDuration = 'write it as 45 min, 8 h or 3 d'

// minutesIn reads a duration: 45, 45 min, 8 h, 2 h 30, 1 d 4 h. It is null when it cannot be read.
// A bare number typed over another duration is in the unit that stood there, the smallest of several:
// 24 over 18 h, or over 1 d 4 h, is 24 h.
export function minutesIn(text: string, over = ''): number | null {
  const typed = text.trim().toLowerCase()
  const unit = /^\d+(?:[.,]\d+)?$/.test(typed) ? /\d (d|h|min)$/.exec(over.trim())?.[1] : undefined
  const all = /^(?:(\d+(?:[.,]\d+)?) *d)? *(?:(\d+(?:[.,]\d+)?) *h)? *(?:(\d+) *(?:min|m)?)?$/.exec(
    unit ? `${typed} ${unit}` : typed,
  )
  if (!all || typed === '') return null
  let minutes = 0
  for (const [i, each] of [24 * 60, 60, 1].entries()) {
    if (all[i + 1] === undefined) continue
    const n = numberIn(all[i + 1]!)
    if (n.value === null) return null
    minutes += n.value * each
  }
  return Math.round(minutes)
}

// exact writes minutes as they are written everywhere: 45 min, 1 h 30 min, 47 h, 2 d 4 h. minutesIn reads it back.
export function exact(minutes: number): string {
  const days = minutes >= 48 * 60 ? Math.floor(minutes / 1440) : 0
  const hours = Math.floor(minutes / 60) - days * 24
  const parts = [days && `${days} d`, hours && `${hours} h`, minutes % 60 && `${minutes % 60} min`].filter(Boolean)
  return parts.join(' ') || '0 min'
}

// duration is exact for what is looked at: whole minutes, and from two days on whole hours.
export function duration(minutes: number): string {
  const whole = Math.max(0, Math.round(minutes))
  return exact(whole < 48 * 60 ? whole : Math.round(whole / 60) * 60)
}

export const noTime = 'write a time, such as 9:30'

// timeIn reads a time of day as people type it, 9, 9:30, 930, 9.30, 2 pm, as 09:30; null when it is none.
export function timeIn(text: string): string | null {
  const read = /^(\d{1,2})(?:[:.h ]?(\d{2}))?\s*([ap])?\.?m?\.?$/i.exec(text.trim())
  if (!read) return null
  const [, hours, minutes = '00', half] = read
  let hour = Number(hours)
  if (half && (hour < 1 || hour > 12)) return null
  if (half) hour = (hour % 12) + (half.toLowerCase() === 'p' ? 12 : 0)
  if (hour > 24 || Number(minutes) > 59 || (hour === 24 && minutes !== '00')) return null
  return `${String(hour % 24).padStart(2, '0')}:${minutes}`
}

export const noDay = (order: string) =>
  `write a day, such as ${{ mdy: '5/31/2027', ymd: '2027-05-31' }[order] ?? '31/5/2027'}`

// dayIn reads a day as people type it in the order of their dates, 31/5/2027, 31.5.27,
// 31 5 of the year that stood there, 2027-05-31, as 2027-05-31; null when it is none.
export function dayIn(text: string, order: 'dmy' | 'mdy' | 'ymd', over: string): string | null {
  const typed = text.trim()
  if (!/^\d+(?:[\s./-]+\d+){1,2}\.?$/.test(typed)) return null
  const parts = typed.match(/\d+/g)!
  const yearFirst = parts[0]!.length === 4
  const kept = over.slice(0, 4) || String(new Date().getFullYear())
  const [year, month, day] = yearFirst
    ? parts
    : order === 'mdy'
      ? [parts[2] ?? kept, parts[0], parts[1]]
      : order === 'ymd' && parts.length === 2
        ? [kept, parts[0], parts[1]]
        : order === 'ymd'
          ? parts
          : [parts[2] ?? kept, parts[1], parts[0]]
  if (!year || !month || !day || ![2, 4].includes(year.length)) return null
  const date = `${year.padStart(4, '20')}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
  const at = new Date(`${date}T12:00:00Z`)
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(date) ? date : null
}
