import { figure } from '../shared/habit'
import { ref } from 'vue'
import type { Schemas } from '../api/client'

export type ReceiptForm = Omit<Schemas['NewReceipt'], 'lines'> & { lines: Schemas['NewPurchase'][] }

// A receipt that was begun elsewhere: from the shopping list, or from a material.
const proposed = ref<ReceiptForm | null>(null)

export const emptyLine = (materialId = 0): Schemas['NewPurchase'] => ({ materialId, packs: 1, pack: '', price: '' })

export const emptyReceipt = (today: string, materialId = 0): ReceiptForm => ({
  supplier: '',
  receivedOn: today,
  shipping: '',
  tax: '',
  note: '',
  lines: [emptyLine(materialId)],
})

// proposeReceipt begins a receipt with what a shopping list asks for.
export function proposeReceipt(list: Schemas['ShoppingList']) {
  proposed.value = {
    ...emptyReceipt(''),
    supplier: list.supplier,
    lines: list.lines.map((l) => ({
      materialId: l.materialId,
      packs: l.packs,
      pack: l.pack,
      price: figure(Number(l.price), 2),
    })),
  }
}

// takeProposed is the receipt that was begun elsewhere, once.
export function takeProposed(today: string): ReceiptForm | null {
  const form = proposed.value
  proposed.value = null
  return form && { ...form, receivedOn: today }
}
