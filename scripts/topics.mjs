// Writes, by path, the topics that each answer of the API is made from.
import { readFileSync } from 'node:fs'

const { paths } = JSON.parse(readFileSync(process.argv[2], 'utf8'))
const lines = []
for (const path of Object.keys(paths).sort()) {
  const reads = Object.values(paths[path]).find((op) => op['x-reads'])?.['x-reads']
  if (!reads) continue
  const line = `  '${path}': [${reads.map((t) => `'${t}'`).join(', ')}],`
  // as the formatter breaks what is longer than a line
  lines.push(line.length <= 120 ? line : [`  '${path}': [`, ...reads.map((t) => `    '${t}',`), '  ],'].join('\n'))
}
console.log(`// Written by scripts/generate from the server's routes.

export type Topic =
  'orders' | 'batches' | 'stores' | 'products' | 'workshop' | 'room' | 'promises' | 'artwork' | 'prints' | 'access'

// reads are the topics that each answer is made from.
export const reads = {
${lines.join('\n')}
} as const satisfies Record<string, readonly Topic[]>`)
