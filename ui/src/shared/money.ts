import { ref } from 'vue'
import { habit, written } from './habit'

export const currency = ref('EUR')

// unit is what stands for the currency beside a field: its sign, or its code.
export const unit = () => habit.value.currencySign || currency.value

// amount writes an exact decimal string with two decimals, without going through a binary number.
export function amount(decimal: string): string {
  const [whole = '0', part = ''] = decimal.split('.')
  return written(`${whole}.${(part + '00').slice(0, 2)}`)
}

// amountIfAny is an amount, or a dash where there is none.
export const amountIfAny = (decimal: string | undefined) => (decimal ? amount(decimal) : '–')

// money is an amount with its currency: 12.50 €, $12.50, 12,50 EUR.
export function money(decimal: string | number): string {
  const figures = typeof decimal === 'number' ? written(decimal.toFixed(2)) : amount(decimal)
  const sign = unit()
  if (!habit.value.signFirst) return `${figures}\u00a0${sign}`
  // Letters would run into the figures.
  const space = /\p{L}$/u.test(sign) ? '\u00a0' : ''
  return figures.startsWith('-') ? `-${sign}${space}${figures.slice(1)}` : `${sign}${space}${figures}`
}

// rounded writes an exact decimal string with so many decimals, half up, without going through a binary number.
export function rounded(decimal: string, places: number): string {
  const sign = decimal.startsWith('-') ? '-' : ''
  const [whole = '0', part = ''] = decimal.replace('-', '').split('.')
  const digits = part.padEnd(places + 1, '0')
  const kept = BigInt(whole + digits.slice(0, places)) + (digits[places]! >= '5' ? 1n : 0n)
  const text = String(kept).padStart(places + 1, '0')
  return written(sign + (places ? `${text.slice(0, -places)}.${text.slice(-places)}` : text))
}
