// splitLots proposes the fewest lots of at most size pieces, as even as can be.
export function splitLots(pieces: number, size: number): number[] {
  if (!Number.isInteger(pieces) || pieces < 1 || size < 1) return []
  const count = Math.ceil(pieces / size)
  return Array.from({ length: count }, (_, i) => Math.floor(pieces / count) + (i < pieces % count ? 1 : 0))
}

// freePrints is how many prints more the last sheet has room for, when a sheet holds so many.
export function freePrints(pieces: number, onSheet: number): number {
  if (!(onSheet >= 1) || !(pieces >= 1)) return 0
  return Math.floor(onSheet * Math.ceil(pieces / onSheet - 1e-9) + 1e-9) - pieces
}
