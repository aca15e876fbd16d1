import type { Schemas } from '../api/client'

export const wayNames: Record<Schemas['Payment']['way'], string> = {
  cash: 'cash',
  card: 'by card',
  transfer: 'by transfer',
  voucher: 'by voucher',
  other: 'another way',
}
