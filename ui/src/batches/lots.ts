// splitLots proposes the fewest lots of at most size pieces, as even as can be.
export function splitLots(pieces: number, size: number): number[] {
  if (!Number.isInteger(pieces) || pieces < 1 || size < 1) return []
  const count = Math.ceil(pieces / size)
  return Array.from({ length: count }, (_, i) => Math.floor(pieces / count) + (i < pieces % count ? 1 : 0))
}
