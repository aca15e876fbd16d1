import { duration, exact, minutesIn } from '../shared/reading'
import type { Schemas } from '../api/client'

// What a label says of a material's rests, typed as people say it.
export const labelFields = [
  'labelFloorMinutes',
  'labelRecoatFromMinutes',
  'labelRecoatToMinutes',
  'labelCureMinutes',
] as const
export type LabelField = (typeof labelFields)[number]
export type LabelText = Record<LabelField, string>
type Label = Partial<Record<LabelField, number>>

export const labelNames: Record<LabelField, string> = {
  labelFloorMinutes: 'Rests at least',
  labelRecoatFromMinutes: 'Next coat after',
  labelRecoatToMinutes: 'Next coat before',
  labelCureMinutes: 'Cured through after',
}

export const noLabel = (): LabelText => ({
  labelFloorMinutes: '',
  labelRecoatFromMinutes: '',
  labelRecoatToMinutes: '',
  labelCureMinutes: '',
})

export function labelText(l: Label): LabelText {
  const text = noLabel()
  for (const f of labelFields) if (l[f] !== undefined) text[f] = exact(l[f])
  return text
}

// labelBody reads what was typed; unread names the first that is no duration. A
// number alone could be hours or minutes, so it is not guessed at.
export function labelBody(t: LabelText): { body: Label; unread: LabelField | '' } {
  const body: Label = {}
  let unread: LabelField | '' = ''
  for (const f of labelFields) {
    const text = t[f].trim()
    if (text === '') continue
    const minutes = /^[\d.,]+$/.test(text) ? null : minutesIn(text)
    if (minutes === null) unread ||= f
    else body[f] = minutes
  }
  return { body, unread }
}

// laid are the kinds of materials that rest by their label.
export const laid = (kind: Schemas['Material']['kind']) => ['medium', 'paint', 'sealer', 'ink', 'finish'].includes(kind)

// labelSaid puts a label's figures in words.
export function labelSaid(l: Label & { labelRead?: boolean }): string {
  const { labelFloorMinutes: floor, labelRecoatFromMinutes: from, labelRecoatToMinutes: to, labelCureMinutes: cure } = l
  const said = [
    floor !== undefined && `rests at least ${duration(floor)}`,
    from !== undefined && `next coat after ${duration(from)}${to === undefined ? '' : ` and before ${duration(to)}`}`,
    cure !== undefined && `cured through after ${duration(cure)}`,
  ].filter(Boolean)
  if (said.length) return said.join(', ')
  return l.labelRead ? 'its label says nothing of rests' : 'nobody has said what its label says'
}
