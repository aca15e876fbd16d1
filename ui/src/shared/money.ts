import { ref } from 'vue'

export const currency = ref('EUR')

// amount writes an exact decimal string with two decimals, without going through a binary number.
export function amount(decimal: string): string {
  const [whole = '0', part = ''] = decimal.split('.')
  return `${whole}.${(part + '00').slice(0, 2)}`
}

// rounded writes an exact decimal string with so many decimals, half up, without going through a binary number.
export function rounded(decimal: string, places: number): string {
  const sign = decimal.startsWith('-') ? '-' : ''
  const [whole = '0', part = ''] = decimal.replace('-', '').split('.')
  const digits = part.padEnd(places + 1, '0')
  const kept = BigInt(whole + digits.slice(0, places)) + (digits[places]! >= '5' ? 1n : 0n)
  const text = String(kept).padStart(places + 1, '0')
  return sign + (places ? `${text.slice(0, -places)}.${text.slice(-places)}` : text)
}
