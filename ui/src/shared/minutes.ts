// timeOf writes a minute of the day as 09:30; the end of the day is 24:00, shown as 00:00.
export const timeOf = (minute: number) =>
  `${String(Math.floor(minute / 60) % 24).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`

// minuteOf reads 09:30.
export function minuteOf(time: string): number {
  const [h = 0, m = 0] = time.split(':').map(Number)
  return h * 60 + m
}

// minuteOfEnd reads 09:30 as one end of a stretch: midnight ends a day as its last minute.
export const minuteOfEnd = (end: 'fromMinute' | 'toMinute', time: string) =>
  minuteOf(time) || (end === 'toMinute' ? 1440 : 0)
