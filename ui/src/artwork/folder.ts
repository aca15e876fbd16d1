// filesOf are the files that were dropped, those in folders included, by their names.
export async function filesOf(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].map((i) => i.webkitGetAsEntry()).filter((e) => e !== null)
  if (!entries.length) return [...transfer.files]
  const files = (await Promise.all(entries.map(inEntry))).flat()
  return files.sort(byName)
}

// byName counts numbers in names as numbers: 2 before 10.
export const byName = (a: { name: string }, b: { name: string }) =>
  a.name.localeCompare(b.name, undefined, { numeric: true, sensitivity: 'base' })

async function inEntry(entry: FileSystemEntry): Promise<File[]> {
  if (entry.name.startsWith('.')) return []
  if (entry.isFile) return [await new Promise<File>((done, no) => (entry as FileSystemFileEntry).file(done, no))]
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  const inside: FileSystemEntry[] = []
  for (;;) {
    // A folder is read in parts, until there is no more.
    const part = await new Promise<FileSystemEntry[]>((done, no) => reader.readEntries(done, no))
    if (!part.length) break
    inside.push(...part)
  }
  return (await Promise.all(inside.map(inEntry))).flat()
}

const plain = (text: string) =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '')

// matched gives pieces their pictures: one whose file bears the piece's name is its own,
// the others go in order to pieces without.
export function matched<P extends { lettering: string; taken: boolean }>(
  pieces: P[],
  files: { name: string; id: number }[],
): { piece: P; id: number }[] {
  const given = new Map<P, number>()
  const left: { name: string; id: number }[] = []
  for (const f of [...files].sort(byName)) {
    const name = plain(f.name.replace(/\.\w+$/, ''))
    const own = pieces
      .filter((p) => !given.has(p) && plain(p.lettering) && name.includes(plain(p.lettering)))
      .sort((a, b) => plain(b.lettering).length - plain(a.lettering).length)[0]
    if (own) given.set(own, f.id)
    else left.push(f)
  }
  for (const p of pieces) if (!given.has(p) && !p.taken && left.length) given.set(p, left.shift()!.id)
  return [...given].map(([piece, id]) => ({ piece, id }))
}
