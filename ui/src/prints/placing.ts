import type { Schemas } from '../api/client'

type Placing = Schemas['Placing']

// How wide one of a picture's pixels is in a print, in mm: core/picture's MmPerPx, here
// so that a picture follows the pointer at once.
export function mmPerPx(p: Placing, pixels: { widthPx: number; heightPx: number }, width: number, height: number) {
  if (!pixels.widthPx || !pixels.heightPx) return 0
  const turn = ((p.turn ?? 0) * Math.PI) / 180
  const sin = Math.abs(Math.sin(turn))
  const cos = Math.abs(Math.cos(turn))
  const fit =
    p.fit === 'whole'
      ? Math.min(
          width / (pixels.widthPx * cos + pixels.heightPx * sin),
          height / (pixels.widthPx * sin + pixels.heightPx * cos),
        )
      : Math.max((width * cos + height * sin) / pixels.widthPx, (width * sin + height * cos) / pixels.heightPx)
  return fit * (p.zoom || 1)
}

// imageAt is where a picture lies in the box of its print, and how it is turned.
export function imageAt(
  p: Placing,
  pixels: { widthPx: number; heightPx: number },
  box: { widthMm: number; heightMm: number },
) {
  const scale = mmPerPx(p, pixels, box.widthMm, box.heightMm)
  const width = pixels.widthPx * scale
  const height = pixels.heightPx * scale
  const cx = box.widthMm / 2 + (p.xMm ?? 0)
  const cy = box.heightMm / 2 + (p.yMm ?? 0)
  return { x: cx - width / 2, y: cy - height / 2, width, height, transform: `rotate(${p.turn ?? 0} ${cx} ${cy})` }
}

const least = 0.05
const most = 20
export const zoomed = (p: Placing, by: number): Placing => ({
  ...p,
  zoom: round(Math.min(most, Math.max(least, (p.zoom || 1) * by)), 4),
})

// turned keeps a turn between half a turn back and half a turn on.
export const turned = (p: Placing, by: number): Placing => {
  const turn = (p.turn ?? 0) + by
  return { ...p, turn: round(turn > 180 ? turn - 360 : turn <= -180 ? turn + 360 : turn, 2) }
}

export const moved = (p: Placing, x: number, y: number): Placing => ({
  ...p,
  xMm: round((p.xMm ?? 0) + x, 2),
  yMm: round((p.yMm ?? 0) + y, 2),
})

export const round = (v: number, places: number) => Math.round(v * 10 ** places) / 10 ** places

// cleanedAt is a picture as a clean-up leaves it, in the size that pages show.
export function cleanedAt(artwork: Schemas['Artwork'], c: Schemas['CleanUp']): string {
  const plain = (!c.colours || c.colours === 'colour') && !c.light && !c.contrast && !c.nearlyWhite && artwork.view
  if (plain) return `/api/artwork-files/${artwork.view}`
  const q = new URLSearchParams({
    colours: c.colours ?? 'colour',
    threshold: String(c.threshold ?? 0),
    light: String(c.light ?? 0),
    contrast: String(c.contrast ?? 0),
    nearlyWhite: String(c.nearlyWhite ?? 0),
    of: artwork.view ?? '',
  })
  return `/api/artworks/${artwork.id}/cleaned?${q.toString()}`
}
