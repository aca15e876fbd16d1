import type { Schemas } from '../api/client'
import { written } from '../shared/habit'
import { clock, dateOf, dayName } from '../shared/time'

// How the trail is written in words.

type Entry = Schemas['TrailEntry']
type Field = Schemas['TrailField']

// by is who it was, and at which device.
export function by(e: Entry): string {
  if (e.itself) return 'the studio by itself'
  const who = e.person && e.member && e.person !== e.member ? `${e.person} (${e.member})` : e.person || e.member
  if (!who) return e.device ? `somebody at ${deviceSaid(e.device)}` : 'somebody'
  return [who, deviceSaid(e.device)].filter(Boolean).join(', ')
}

// A device that nobody has named goes by a long number: its beginning tells it from others.
const deviceSaid = (device: string) => (/^\d{6,}/.test(device) ? `device ${device.slice(0, 4)}` : device)

// valueOf writes what stood in a field; nothing there is a dash.
export function valueOf(kind: Field['kind'], value: string, today: string): string {
  if (value === '') return '–'
  if (kind === 'flag') return value === '0' ? 'no' : 'yes'
  if (kind === 'day') return dayName(value, today)
  if (kind === 'moment') return `${dayName(dateOf(value), today)} ${clock(value)}`
  return kind === 'number' ? written(value) : value
}

// fieldSaid is a field from which to which; of a thing that came or went only what it had.
export function fieldSaid(did: Schemas['TrailChange']['did'], f: Field, today: string): string {
  const was = valueOf(f.kind, f.was, today)
  const became = valueOf(f.kind, f.became, today)
  if (did === 'made') return `${f.name} ${became}`
  if (did === 'removed') return `${f.name} ${was}`
  return `${f.name} ${was} → ${became}`
}
