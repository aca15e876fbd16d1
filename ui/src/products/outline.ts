import type { Schemas } from '../api/client'

// The outlines of flat blanks as paths, in a box at (x, y) of w × h; corner is a
// rectangle's, in the box's own units.

type Kind = Schemas['Shape']['kind']

const n = (v: number) => Math.round(v * 100) / 100

export function outlinePath(kind: Kind, x: number, y: number, w: number, h: number, corner = 0): string {
  const right = n(x + w)
  const foot = n(y + h)
  switch (kind) {
    case 'disc':
    case 'oval':
      return `M${n(x)} ${n(y + h / 2)}A${n(w / 2)} ${n(h / 2)} 0 1 1 ${right} ${n(y + h / 2)}A${n(w / 2)} ${n(h / 2)} 0 1 1 ${n(x)} ${n(y + h / 2)}Z`
    case 'arch':
      return `M${n(x)} ${foot}V${n(y + w / 2)}A${n(w / 2)} ${n(w / 2)} 0 0 1 ${right} ${n(y + w / 2)}V${foot}Z`
    case 'heart':
      return heart(x, y, w, h)
  }
  const r = n(Math.min(corner, w / 2, h / 2))
  if (!r) return `M${n(x)} ${n(y)}H${right}V${foot}H${n(x)}Z`
  return `M${n(x + r)} ${n(y)}H${n(right - r)}a${r} ${r} 0 0 1 ${r} ${r}V${n(foot - r)}a${r} ${r} 0 0 1 ${-r} ${r}H${n(x + r)}a${r} ${r} 0 0 1 ${-r} ${-r}V${n(y + r)}a${r} ${r} 0 0 1 ${r} ${-r}Z`
}

// The curves of core/shape's heart, whose lobes reach this far under the top of its unit box.
const lobes = 0.0111
function heart(x: number, y: number, w: number, h: number): string {
  const at = (u: number, v: number) => `${n(x + u * w)} ${n(y + ((v - lobes) / (1 - lobes)) * h)}`
  return (
    `M${at(0.5, 0.2)}C${at(0.62, -0.0667)} ${at(1, -0.0667)} ${at(1, 0.3)}C${at(1, 0.62)} ${at(0.66, 0.8)} ${at(0.5, 1)}` +
    `C${at(0.34, 0.8)} ${at(0, 0.62)} ${at(0, 0.3)}C${at(0, -0.0667)} ${at(0.38, -0.0667)} ${at(0.5, 0.2)}Z`
  )
}
