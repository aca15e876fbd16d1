import { countIn, noDuration, numberIn } from '../shared/reading'
import type { Schemas } from '../api/client'
import { labelBody, labelNames, labelText, laid, noLabel, type LabelText } from './label'
import type { Kind, Unit } from './words'

// A material as it is typed: numbers that may be left out are texts.
export interface MaterialText extends Record<string, unknown>, LabelText {
  labelRead: boolean
  name: string
  kind: Kind
  unit: Unit
  filmMm: string
  density: string
  lasts: string
  sheetWidthMm: string
  sheetHeightMm: string
  shelfLifeDays: string
  openLifeDays: string
  leadDays: number
  hazard: string
  sort: string
  smallestMm: string
  unitCost: string
}

// unreadable is said of a field that cannot be read.
export const unreadable = (field: string, t: MaterialText) =>
  field.startsWith('label') ? noDuration : numberIn(String(t[field as keyof MaterialText])).fault

const numbers = [
  'filmMm',
  'density',
  'lasts',
  'sheetWidthMm',
  'sheetHeightMm',
  'shelfLifeDays',
  'openLifeDays',
  'smallestMm',
] as const

export const newMaterial = (): MaterialText => ({
  name: '',
  kind: 'consumable',
  unit: 'piece',
  filmMm: '',
  density: '',
  lasts: '',
  sheetWidthMm: '',
  sheetHeightMm: '',
  shelfLifeDays: '',
  openLifeDays: '',
  leadDays: 5,
  hazard: '',
  sort: '',
  smallestMm: '',
  unitCost: '',
  labelRead: false,
  ...noLabel(),
})

export function materialText(m: Schemas['MaterialCard']): MaterialText {
  const text = newMaterial()
  for (const n of numbers) text[n] = m[n] === undefined ? '' : String(m[n])
  return {
    ...text,
    ...labelText(m),
    labelRead: m.labelRead ?? false,
    name: m.name,
    kind: m.kind,
    unit: m.unit,
    leadDays: m.leadDays,
    hazard: m.hazard,
    sort: m.sort,
    unitCost: String(Number(m.unitCost)),
  }
}

// materialBody is the form as it is sent; unread names the first field that is no number.
export function materialBody(t: MaterialText): { body: Omit<Schemas['NewMaterial'], 'unitCost'>; unread: string } {
  const read: Record<string, number | undefined> = {}
  let unread = ''
  for (const n of numbers) {
    if (n === 'filmMm' && t.unit !== 'ml') continue
    if (t[n].trim() === '') continue
    const { value } = numberIn(t[n])
    if (value === null) unread ||= n
    else read[n] = value
  }
  const label = laid(t.kind) ? labelBody(t) : { body: {}, unread: '' }
  unread ||= label.unread
  const body = {
    ...label.body,
    labelRead: t.labelRead,
    name: t.name,
    kind: t.kind,
    unit: t.unit,
    leadDays: countIn(t.leadDays),
    hazard: t.hazard,
    sort: t.sort,
    ...read,
  }
  return { body, unread }
}

export const materialNames: Record<string, string> = {
  name: 'Name',
  kind: 'Kind',
  unit: 'Counted in',
  filmMm: 'Film of a coat, mm',
  density: 'Density, g per ml',
  lasts: 'One lasts, pieces or uses',
  sheetWidthMm: 'Sheet width, mm',
  sheetHeightMm: 'Sheet height, mm',
  shelfLifeDays: 'Keeps, days from its purchase',
  openLifeDays: 'Keeps once opened, days',
  leadDays: 'Days from order to door',
  hazard: 'Hazard',
  sort: 'Bought as (unsorted)',
  smallestMm: 'Smallest of this class, mm',
  unitCost: 'A unit costs',
  ...labelNames,
}
