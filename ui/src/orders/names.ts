// namesIn are the names of a table that somebody has: the column headed name, lettering
// or text, else the first. Semicolons, tabs and commas part columns; what is in quotes
// stays together. Empty rows are left out and counted, and so is what comes twice.
export function namesIn(text: string): { names: string[]; empty: number; twice: string[] } {
  const rows = rowsOf(text.replace(/^\uFEFF/, ''))
  const head = rows[0]?.map((c) => c.trim().toLowerCase()) ?? []
  const column = head.findIndex((c) => ['name', 'names', 'lettering', 'text'].includes(c))
  const cells = (column < 0 ? rows : rows.slice(1)).map((r) => (r[Math.max(0, column)] ?? '').trim())
  const names = cells.filter(Boolean)
  const twice = [...new Set(names.filter((n, i) => names.indexOf(n) !== i))]
  return { names, empty: cells.length - names.length, twice }
}

// largest is more than any table of names, in bytes.
const largest = 2_000_000

// takenIn are the names of somebody's file, at most so many, and what is said of them;
// nothing where none can be read.
export async function takenIn(file: File, most: number): Promise<{ names: string[]; said: string }> {
  const { names, empty, twice } = namesIn(file.size > largest ? '' : await file.text())
  if (!names.length) return { names, said: `“${file.name}” holds no names that can be read.` }
  const taken = Math.min(most, names.length)
  const left = names.length - taken
  const said = [
    `${taken} ${taken === 1 ? 'name' : 'names'} taken in`,
    ...(left > 0
      ? [`${left} more ${left === 1 ? 'is' : 'are'} left: a line has at most ${most}, put the rest on another`]
      : []),
    ...(empty ? [`${empty} empty ${empty === 1 ? 'row' : 'rows'} left out`] : []),
    ...(twice.length ? [`twice: ${twice.slice(0, 5).join(', ')}${twice.length > 5 ? ' and others' : ''}`] : []),
  ]
  return { names: names.slice(0, taken), said: `${said.join('. ')}.` }
}

function rowsOf(text: string): string[][] {
  const first = text.slice(0, text.search(/[\r\n]|$/))
  const sign = ['\t', ';', ','].find((s) => first.includes(s)) ?? ','
  const rows: string[][] = []
  let row: string[] = []
  let cell = ''
  let quoted = false
  const end = () => {
    row.push(cell)
    cell = ''
  }
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!
    if (quoted) {
      if (c !== '"') cell += c
      else if (text[i + 1] === '"') cell += text[++i]
      else quoted = false
    } else if (c === '"' && cell === '') quoted = true
    else if (c === sign) end()
    else if (c === '\n' || c === '\r') {
      if (c === '\r' && text[i + 1] === '\n') i++
      end()
      rows.push(row)
      row = []
    } else cell += c
  }
  if (cell || row.length) {
    end()
    rows.push(row)
  }
  return rows
}

// typedNames are the names that are typed, one a line.
export const typedNames = (text: string) =>
  text
    .split('\n')
    .map((t) => t.trim())
    .filter(Boolean)

// namesFault is what is wrong with the names of a line, or with one of them.
export const namesFault = (faults: Record<string, string> | undefined, line: number) =>
  Object.entries(faults ?? {}).find(
    ([at]) => at === `lines[${line}].lettering` || at.startsWith(`lines[${line}].lettering[`),
  )?.[1] ?? ''
