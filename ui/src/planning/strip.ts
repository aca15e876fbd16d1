import type { Day, Hands, Resting } from './queries'
import { lanes } from './scale'

// What is drawn of a day: hands by person, like work in one bar; rests as one
// silhouette of the rack, with rings where they end.

// Group is like work that one person does in one go, lot after lot.
export interface Group {
  hands: Hands[]
  work: string
  start: string
  end: string
  pieces: number
  late: boolean
  // done, planned (with what is in hand) or tentative
  state: 'done' | 'planned' | 'tentative'
  own: boolean
}

export interface PersonLane {
  personId: number
  name: string
  open: Day['open']
  // Groups that overlap, as where two steps were in hand at once, share the lane's height.
  groups: { item: Group; lane: number; lanes: number }[]
}

// mostApart is the longest break between steps that still read as one go, in ms.
const mostApart = 10 * 60000

const stateOf = (h: Hands): Group['state'] => (h.state === 'inHand' ? 'planned' : h.state)

// goesOn tells whether a step goes on with the work of a group, or is in hand in one
// sitting with it. Lots that are picked stand for themselves.
function goesOn(g: Group, h: Hands, own: boolean): boolean {
  const gap = Date.parse(h.start) - Date.parse(g.end)
  const sitting = h.sitting !== 0 && g.hands.some((o) => o.sitting === h.sitting)
  return g.work === h.work && g.state === stateOf(h) && g.own === own && (sitting || (gap >= 0 && gap <= mostApart))
}

export function grouped(hands: Hands[], own: (h: Hands) => boolean): Group[] {
  const groups: Group[] = []
  for (const h of hands) {
    const mine = own(h)
    const last = groups.at(-1)
    if (last && goesOn(last, h, mine)) {
      last.hands.push(h)
      if (Date.parse(h.end) > Date.parse(last.end)) last.end = h.end
      last.pieces += h.pieces
      last.late ||= h.late
      continue
    }
    groups.push({
      hands: [h],
      work: h.work,
      start: h.start,
      end: h.end,
      pieces: h.pieces,
      late: h.late,
      state: stateOf(h),
      own: mine,
    })
  }
  return groups
}

const within = (day: Day) => {
  const [from, to] = [Date.parse(day.start), Date.parse(day.end)]
  return (s: { start: string; end: string }) => Date.parse(s.start) < to && Date.parse(s.end) > from
}

// inDays are, for each of some days, the spans that have something to say in it: hands
// while they last, rests until their end, their readiness and their ceiling are past.
export function inDays<T extends Hands | Resting>(days: Day[], spans: T[]): T[][] {
  const bounds = days.map((d) => [Date.parse(d.start), Date.parse(d.end)] as const)
  const within: T[][] = days.map(() => [])
  for (const span of spans) {
    const from = Date.parse(span.start)
    const to = Math.max(
      Date.parse(span.end),
      ...('ready' in span ? [span.ready, span.until ?? span.ready] : []).map(Date.parse),
    )
    bounds.forEach(([start, end], i) => from < end && to >= start && within[i]!.push(span))
  }
  return within
}

// personLanes are the lanes of a day: everyone who works here, and whoever else did something.
export function personLanes(day: Day, hands: Hands[], own: (h: Hands) => boolean): PersonLane[] {
  const here = hands.filter(within(day))
  const people = day.people.map((p) => ({ personId: p.personId, name: p.name, open: p.open }))
  for (const h of here)
    if (!people.some((p) => p.personId === h.personId)) people.push({ personId: h.personId, name: h.person, open: [] })
  return people.map((p) => {
    const theirs = grouped(
      here.filter((h) => h.personId === p.personId),
      own,
    )
    // What is done lies under what was taken up before it was.
    const done = theirs.filter((g) => g.state === 'done')
    return { ...p, groups: [...sharing(done), ...sharing(theirs.filter((g) => g.state !== 'done'))] }
  })
}

// sharing lays groups out so that what overlaps shares the height, and nothing else does.
function sharing(groups: Group[]): PersonLane['groups'] {
  const laid: PersonLane['groups'] = []
  let knot: Group[] = []
  let end = 0
  const close = () => {
    const placed = lanes(knot)
    const most = Math.max(...placed.map((g) => g.lane + 1))
    laid.push(...placed.map((g) => ({ ...g, lanes: most })))
    knot = []
  }
  for (const g of groups) {
    if (knot.length > 0 && Date.parse(g.start) >= end) close()
    knot.push(g)
    end = Math.max(knot.length === 1 ? 0 : end, Date.parse(g.end))
  }
  if (knot.length > 0) close()
  return laid
}

// Level is how much of the rack is taken from a moment on.
export interface Level {
  at: number
  places: number
}

// levelsOf is how full the rack is over a day.
export function levelsOf(day: Day, rests: Resting[]): Level[] {
  const [from, to] = [Date.parse(day.start), Date.parse(day.end)]
  const changes = new Map<number, number>([[from, 0]])
  const change = (at: number, by: number) => changes.set(at, (changes.get(at) ?? 0) + by)
  for (const r of rests.filter(within(day))) {
    change(Math.max(from, Date.parse(r.start)), r.places)
    if (Date.parse(r.end) < to) change(Date.parse(r.end), -r.places)
  }
  let places = 0
  return [...changes].sort(([a], [b]) => a - b).map(([at, by]) => ({ at, places: (places += by) }))
}

export const placesAt = (levels: Level[], at: number) => levels.filter((l) => l.at <= at).at(-1)?.places ?? 0

// End is a moment at which rests are over: several within twenty minutes, or
// too near to be told apart, are one.
export interface End {
  at: number
  rests: Resting[]
}

export const together = 20 * 60000

export function endsOf(day: Day, rests: Resting[], apart: (a: number, b: number) => boolean): End[] {
  const [from, to] = [Date.parse(day.start), Date.parse(day.end)]
  const ends: End[] = []
  const inOrder = rests
    .map((rest) => ({ at: Date.parse(rest.ready), rest }))
    .filter(({ at }) => at >= from && at < to)
    .sort((a, b) => a.at - b.at)
  for (const { at, rest } of inOrder) {
    const last = ends.at(-1)
    if (last && (at - last.at < together || !apart(last.at, at))) last.rests.push(rest)
    else ends.push({ at, rests: [rest] })
  }
  return ends
}

// ceilingsOf are the moments of a day by which a next step must have begun.
export function ceilingsOf(day: Day, rests: Resting[]): { at: number; rest: Resting }[] {
  const [from, to] = [Date.parse(day.start), Date.parse(day.end)]
  return rests
    .filter((r) => r.until !== undefined && r.state !== 'done')
    .map((rest) => ({ at: Date.parse(rest.until!), rest }))
    .filter(({ at }) => at >= from && at < to)
}

// keyOf names a group in an address: by the first of its steps.
export const keyOf = (g: Group) => g.hands[0]!.lotId * 100 + g.hands[0]!.step

// groupBy finds a group by such a name.
export function groupBy(key: number, days: Day[], hands: Hands[]): { group: Group; person: string } | undefined {
  for (const day of days)
    for (const lane of personLanes(day, hands, () => false))
      for (const { item } of lane.groups)
        if (item.hands.some((h) => h.lotId > 0 && h.lotId * 100 + h.step === key))
          return { group: item, person: lane.name }
  return undefined
}
