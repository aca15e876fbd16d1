import type { Schemas } from '../api/client'

// Outcomes are the pieces of a step that did not come out good.
export interface Outcomes {
  again: number[]
  rework: number[]
  spoiled: Schemas['SpoiledPiece'][]
}

export const allGood = (): Outcomes => ({ again: [], rework: [], spoiled: [] })
