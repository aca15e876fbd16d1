// oftenInTime says a chance of being in time as people do.
export function oftenInTime(chance: number): string {
  if (chance >= 0.995) return 'As good as always in time'
  if (chance >= 0.95) return 'In time 19 times in 20'
  const tenths = Math.round(chance * 10)
  if (tenths === 0) return 'Hardly ever in time'
  if (tenths === 5) return 'In time as often as not'
  return `In time about ${tenths} ${tenths === 1 ? 'time' : 'times'} in ten`
}
