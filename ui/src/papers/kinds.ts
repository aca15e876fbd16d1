import type { Schemas } from '../api/client'

export type PaperKind = Schemas['IssuedPaper']['kind']

// What the kinds of papers are called.
export const paperNames: Record<PaperKind, string> = {
  invoice: 'Invoice',
  credit_note: 'Credit note',
  receipt: 'Receipt',
  packing_slip: 'Packing slip',
  order_sheet: 'Order sheet',
  care_card: 'Care cards',
}

export const paperAddress = (id: number) => `/api/issued-papers/${id}/pdf`
