import { figure } from '../shared/habit'
import type { Schemas } from '../api/client'
import { rounded } from '../shared/money'

export type Kind = Schemas['MaterialCard']['kind']
export type Unit = Schemas['MaterialCard']['unit']

// The kinds of material, in the order the stores show them.
export const kinds: Record<Kind, string> = {
  blank: 'Blanks',
  medium: 'Media',
  paint: 'Paints',
  sealer: 'Sealers',
  paper: 'Paper',
  film: 'Film',
  toner: 'Toner',
  ink: 'Ink',
  consumable: 'Consumables',
  finish: 'Finishes',
  packing: 'Packing',
  energy: 'Energy',
}
export const units: Unit[] = ['ml', 'g', 'm', 'piece', 'sheet', 'page', 'kWh']

export const causes: Record<Schemas['Movement']['cause'], string> = {
  purchase: 'bought',
  batch: 'used',
  spoil: 'spoilt',
  count: 'counted',
  loss: 'lost',
}

// quantity writes an amount of a material with its unit: 3 pieces, 240 ml.
export function quantity(amount: string | number, unit: string): string {
  const n = Math.round(Number(amount) * 100) / 100
  const many = ['piece', 'sheet', 'page'].includes(unit) && n !== 1
  return `${figure(n)} ${unit}${many ? 's' : ''}`
}

// unitCost writes what a unit costs, with as many decimals as it takes to see it, two at least.
export const unitCost = (cost: string) =>
  rounded(cost, Number(cost) >= 1 ? 2 : 4).replace(/^(-?\d+[.,]\d\d\d*?)0+$/, '$1')
