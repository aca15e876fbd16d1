import { answerOf, api, Trouble, type Schemas } from '../api/client'

export type Table = 'materials' | 'purchases'

// mostBytes is the largest file that the server reads.
export const mostBytes = 16 * 2 ** 20

const cut = () => new Trouble(0, '', 'The answer broke off. Take the file in again: nothing is entered twice.', {})

// lastOf reads an answer that comes line by line: tells how far it has come, and gives what came of it.
export async function lastOf(
  stream: ReadableStream<Uint8Array>,
  tell: (p: Schemas['Progress']) => void,
): Promise<Schemas['Import']> {
  let text = ''
  const decoder = new TextDecoder()
  const reader = stream.getReader()
  for (;;) {
    const { done, value } = await reader.read().catch(() => {
      throw cut()
    })
    text += value ? decoder.decode(value, { stream: true }) : ''
    const lines = text.split('\n')
    text = lines.pop() ?? ''
    for (const line of lines) {
      const said = JSON.parse(line) as Schemas['ImportLine']
      if (said.import) return said.import
      if (said.problem) throw new Trouble(said.problem.status, said.problem.type ?? '', said.problem.detail, {})
      if (said.progress) tell(said.progress)
    }
    if (done) throw cut()
  }
}

// importTable sends a table to be looked through, or to be saved.
export async function importTable(
  table: Table,
  file: Blob,
  save: boolean,
  tell: (p: Schemas['Progress']) => void,
): Promise<Schemas['Import']> {
  const sent = {
    params: { query: { save } },
    headers: { 'Content-Type': 'text/csv' },
    body: file as unknown as string, // its bytes as they are: only the server can say whether they are UTF-8
    bodySerializer: (body: unknown) => body as Blob,
    parseAs: 'stream' as const,
  }
  const stream =
    table === 'materials'
      ? await answerOf(api.POST('/api/imports/materials', sent))
      : await answerOf(api.POST('/api/imports/purchases', sent))
  return lastOf(stream as unknown as ReadableStream<Uint8Array>, tell)
}

const named: Record<Table, [string, string]> = {
  materials: ['material', 'materials'],
  purchases: ['receipt', 'receipts'],
}
const several = (n: number, table: Table) => `${n} ${named[table][n === 1 ? 0 : 1]}`

// outcome says in a sentence what a file would do, or did.
export function outcome(imp: Schemas['Import'], table: Table): string {
  const parts = [`${imp.added} new`]
  if (table === 'materials') parts.push(`${imp.changed} changed`)
  parts.push(`${imp.same} ${table === 'materials' ? 'as they are' : 'there already'}`)
  return `${imp.rows} ${imp.rows === 1 ? 'row' : 'rows'}: ${parts.join(', ')}`
}

// saving names the act that saves a file.
export function saving(imp: Schemas['Import'], table: Table): string {
  const parts = []
  if (imp.added) parts.push(`add ${several(imp.added, table)}`)
  if (imp.changed) parts.push(`change ${imp.changed}`)
  const text = parts.join(' and ')
  return text.charAt(0).toUpperCase() + text.slice(1)
}
