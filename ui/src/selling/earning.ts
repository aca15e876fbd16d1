import { figure } from '../shared/habit'
import type { Schemas } from '../api/client'

type Costs = Schemas['Costs']

// Earning is where the money of one piece goes and the minutes it takes, at a way of selling.
export interface Earning {
  name: string
  tag: number
  parts: { key: string; name: string; amount: number }[]
  left: number
  minutes: number
  perHour: number
}

export function earningAt(costs: Costs, outletId: number): Earning {
  const sale = costs.sales.find((s) => s.outletId === outletId) ?? costs.sales[0]!
  const p = costs.perPiece
  return {
    name: costs.name,
    tag: Number(sale.tag),
    parts: [
      { key: 'tax', name: 'Sales tax', amount: Number(sale.tax) },
      { key: 'fees', name: 'Fees', amount: Number(sale.fees) },
      { key: 'materials', name: 'Materials and print', amount: Number(p.materials) },
      { key: 'outside', name: 'Bought in', amount: Number(p.outside) },
      { key: 'overhead', name: 'Room and tools', amount: Number(p.overhead) },
    ],
    left: Number(sale.kept) - Number(p.total) + Number(p.labour),
    minutes: Number(costs.handsMinutes),
    perHour: Number(sale.earnedPerHour || 0),
  }
}

const more = (by: number) => `${figure(Math.abs(by), 2)} ${by > 0 ? 'more' : 'less'}`

// whyLess says in words why an hour of one earns less than an hour of the other.
export function whyLess(a: Earning, b: Earning): string {
  const [less, other] = a.perHour <= b.perHour ? [a, b] : [b, a]
  const reasons = [`it sells for ${more(less.tag - other.tag)}`]
  for (const part of less.parts) {
    const by = part.amount - (other.parts.find((p) => p.key === part.key)?.amount ?? 0)
    if (Math.abs(by) >= 0.05) reasons.push(`${part.name.toLowerCase()} take ${more(by)}`)
  }
  const minutes = less.minutes - other.minutes
  if (Math.abs(minutes) >= 0.5)
    reasons.push(`it is ${figure(Math.abs(minutes), 1)} min ${minutes > 0 ? 'longer' : 'shorter'} in hand`)
  return `An hour of ${less.name} earns ${figure(other.perHour - less.perHour, 2)} less: ${reasons.join(', ')}. So ${figure(less.left, 2)} is left for ${figure(less.minutes, 1)} min, against ${figure(other.left, 2)} for ${figure(other.minutes, 1)} min.`
}
