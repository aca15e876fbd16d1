import { readFileSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import path from 'node:path'
import type { Plugin } from 'vite'

// The page that an address shows is asked for at once, beside the frame, and not
// when the frame has come and read the address: on a slow line that is a journey less.
// A few lines of script, made from the router's own list, say what belongs to an address.
interface Chunk {
  type: string
  fileName: string
  facadeModuleId?: string | null
  imports?: string[]
  isEntry?: boolean
  viteMetadata?: { importedCss: Set<string> }
}

const routes = () =>
  [
    ...readFileSync(new URL('src/app/router.ts', import.meta.url), 'utf8').matchAll(
      /path: '([^']+)',\s*component: \(\) => import\('\.\.?\/([^']+)'\)/g,
    ),
  ].map(([, address, page]) => ({ address: address!, page: page!.replace(/^\.\//, '') }))

// filesOf are a chunk and all that it imports, with their styles.
function filesOf(chunk: Chunk, chunks: Map<string, Chunk>, files = new Set<string>()): Set<string> {
  if (files.has(chunk.fileName)) return files
  files.add(chunk.fileName)
  for (const css of chunk.viteMetadata?.importedCss ?? []) files.add(css)
  for (const name of chunk.imports ?? []) if (chunks.has(name)) filesOf(chunks.get(name)!, chunks, files)
  return files
}

const script = (pages: [string, string[]][]) => `(function (pages) {
  var page = pages.find(function (p) { return new RegExp(p[0]).test(location.pathname) })
  if (page) page[1].forEach(function (file) {
    var link = document.createElement('link')
    link.rel = /css$/.test(file) ? 'preload' : 'modulepreload'
    if (link.rel === 'preload') {
      link.as = 'style'
      link.crossOrigin = ''
    }
    link.href = '/' + file
    document.head.appendChild(link)
  })
})(${JSON.stringify(pages)})
`

export const early: Plugin = {
  name: 'early',
  apply: 'build',
  writeBundle({ dir }, bundle) {
    const chunks = new Map(
      (Object.values(bundle) as unknown as Chunk[]).filter((c) => c.type === 'chunk').map((c) => [c.fileName, c]),
    )
    const entry = [...chunks.values()].find((c) => c.isEntry)
    const always = entry ? filesOf(entry, chunks) : new Set<string>()
    const pages = routes().flatMap(({ address, page }): [string, string[]][] => {
      const chunk = [...chunks.values()].find((c) => c.facadeModuleId?.endsWith(`/src/${page}`))
      if (!chunk) return []
      const pattern = `^${address.replace(/:id\(\\\\d\+\)/, '\\d+')}$`
      return [[pattern, [...filesOf(chunk, chunks)].filter((f) => !always.has(f))]]
    })
    if (pages.length < 10) throw new Error(`early: only ${pages.length} pages found in the router`)
    const source = script(pages)
    const name = `assets/early-${createHash('sha256').update(source).digest('base64url').slice(0, 8)}.js`
    writeFileSync(path.join(dir!, name), source)
    const index = path.join(dir!, 'index.html')
    writeFileSync(
      index,
      readFileSync(index, 'utf8').replace('<head>', `<head>\n    <script async src="/${name}"></script>`),
    )
  },
}
