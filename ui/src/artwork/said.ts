import type { Schemas } from '../api/client'
import { figure } from '../shared/habit'

type Artwork = Schemas['Artwork']

export const percent = (share: number) => `${figure(share * 100, share > 0 && share < 0.0995 ? 1 : 0)} %`

export const fileAt = (hash: string | undefined) => (hash ? `/api/artwork-files/${hash}` : undefined)

const mmPerInch = 25.4

// widest is how wide a picture may be printed whole at so many pixels an inch, in whole mm.
export const widest = (p: Artwork, ppi: number) => Math.floor((p.pixels.widthPx / ppi) * mmPerInch)

// sizeOf says a picture's size in pixels.
export const sizeOf = (p: Artwork) => `${figure(p.pixels.widthPx)} × ${figure(p.pixels.heightPx)} pixels`

// inks names the inks of a print and the share that each covers.
export function inks(p: Artwork): { name: string; share: string }[] {
  const { cyan, magenta, yellow, black, alone } = p.pixels.ink
  if (p.pixels.grey) return [{ name: 'black', share: percent(alone) }]
  return [
    { name: 'cyan', share: percent(cyan) },
    { name: 'magenta', share: percent(magenta) },
    { name: 'yellow', share: percent(yellow) },
    { name: 'black', share: percent(black) },
    { name: 'in black only', share: percent(alone) },
  ]
}

// tones are the heights of sixteen bars from dark to light, the highest 1.
export function tones(p: Artwork): number[] {
  const most = Math.max(...p.pixels.tones, 0.0001)
  return p.pixels.tones.map((t) => t / most)
}

// sharpTo says how wide it may be printed.
export const sharpTo = (p: Artwork) => `sharp up to ${widest(p, 300)} mm wide`

// standing is what somebody still has to say of a picture, if anything.
export function standing(p: Artwork): string {
  if (p.state !== 'ready') return ''
  if (p.rights === 'unknown') return 'who may use it is not said'
  if (p.showsPeople && !p.consent) return 'nobody shown has agreed yet'
  return ''
}
