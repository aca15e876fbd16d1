import { duration } from '../shared/reading'
import type { Schemas } from '../api/client'
import { moment, type Moment } from '../shared/time'

export const pressing = (r: Schemas['Readiness']) => ['tight', 'late', 'unplanned'].includes(r.state)

// spare writes the time between ready and due: a day to spare, 3 h to spare, 2 d late.
export function spare(minutes: number): string {
  const size = Math.abs(minutes)
  const said = size >= 1440 && size < 2880 ? 'a day' : size >= 2880 ? `${Math.floor(size / 1440)} days` : duration(size)
  return minutes < 0 ? `${said} late` : `${said} to spare`
}

// standing says how an order stands to its due date.
export function standing(r: Schemas['Readiness'], now: Moment): string {
  switch (r.state) {
    case 'ready':
      return 'ready, collect'
    case 'closed':
      return 'closed'
    case 'planning':
      return 'its place is being worked out'
    case 'unplanned':
      return 'finds no place in the plan'
    default: {
      const begun = r.unstarted > 0 ? `${r.unstarted} not begun · ` : ''
      return `${begun}ready ${r.at ? moment(r.at, now) : '?'}, ${spare(r.spareMinutes)}`
    }
  }
}
