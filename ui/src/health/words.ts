import type { Schemas } from '../api/client'
import { figure } from '../shared/habit'

// How the machine's state is written in words.

export const looked: Record<Schemas['Check']['what'], string> = {
  backup: 'Backup',
  disk: 'Disk',
  database: 'Database',
  clock: 'Clock',
}

// sizeSaid writes bytes as people say them.
export function sizeSaid(bytes: number): string {
  if (bytes < 1e6) return `${figure(Math.max(1, Math.round(bytes / 1e3)))} kB`
  if (bytes < 1e9) return `${figure(bytes / 1e6, bytes < 1e7 ? 1 : 0)} MB`
  return `${figure(bytes / 1e9, 1)} GB`
}

// makingSaid is how far a backup has come.
export function makingSaid(m: Schemas['Making']): string {
  const stages = { writing: 'Writing', reading: 'Reading it back', proving: 'Putting it into a database of its own' }
  return m.total ? `${stages[m.stage]}: ${m.done} of ${m.total}` : stages[m.stage]
}

// holdsSaid says whether a backup holds, and where else it lies.
export function holdsSaid(b: Schemas['Backup']): string {
  const said = [b.failure ? `does not hold: ${b.failure}` : 'holds']
  if (b.encrypted) said.push('encrypted')
  if (b.copied) said.push('in the second folder too')
  if (b.notCopied) said.push(`not in the second folder: ${b.notCopied}`)
  if (b.missing) said.push(`${b.missing} files of pictures had been lost or damaged before`)
  return said.join(', ')
}
