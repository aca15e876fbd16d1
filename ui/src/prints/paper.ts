import type { Schemas } from '../api/client'

export type Paper = Schemas['Paper']

// Papers that printers and shops have.
export const papers: Paper[] = [
  { name: 'A4', widthMm: 210, heightMm: 297, marginMm: 6, gapMm: 2 },
  { name: 'A3', widthMm: 297, heightMm: 420, marginMm: 6, gapMm: 2 },
  { name: 'A5', widthMm: 148, heightMm: 210, marginMm: 6, gapMm: 2 },
  { name: 'Letter', widthMm: 215.9, heightMm: 279.4, marginMm: 6, gapMm: 2 },
  { name: 'Legal', widthMm: 215.9, heightMm: 355.6, marginMm: 6, gapMm: 2 },
]

const kept = 'tidykiln.paper'

// lastPaper is the paper that this device printed on last.
export function lastPaper(): Paper {
  try {
    const p = JSON.parse(localStorage.getItem(kept) ?? '') as Paper
    if (p.widthMm > 0 && p.heightMm > 0) return p
  } catch {
    // none yet, or none that can be read
  }
  return { ...papers[0]! }
}
export function keepPaper(p: Paper) {
  try {
    localStorage.setItem(kept, JSON.stringify(p))
  } catch {
    // then it is chosen again
  }
}

const keptPrice = 'tidykiln.shopSheet'

// lastShopPrice is what a copy shop took for a sheet when this device last asked.
export function lastShopPrice(): string {
  try {
    return localStorage.getItem(keptPrice) ?? ''
  } catch {
    return ''
  }
}
export function keepShopPrice(price: string) {
  try {
    localStorage.setItem(keptPrice, price)
  } catch {
    // then it is typed again
  }
}
