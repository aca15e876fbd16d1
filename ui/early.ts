import { readFileSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import path from 'node:path'
import type { Plugin } from 'vite'
import { readFirst } from './src/api/early'

// The page that an address shows, and what it reads first, are asked for at once, beside
// the frame, and not when the frame has come and read the address: on a slow line that is
// a journey less.
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

interface Page {
  address: string
  files: string[]
  reads: string[]
}

const script = (pages: Page[]) => `(function (always, business, pages) {
  if (window.early) return // the frame was here first
  var page = pages.find(function (p) { return new RegExp(p.address).test(location.pathname) })
  if (page) page.files.forEach(function (file) {
    var link = document.createElement('link')
    link.rel = /css$/.test(file) ? 'preload' : 'modulepreload'
    if (link.rel === 'preload') {
      link.as = 'style'
      link.crossOrigin = ''
    }
    link.href = '/' + file
    document.head.appendChild(link)
  })
  // kept by shared/settings.ts
  if (localStorage.getItem('role') !== '"helper"') always = always.concat(business)
  if (/^\\/proof\\//.test(location.pathname)) always = [] // a customer's page asks for nothing else
  var reads = page && !location.search ? always.concat(page.reads) : always
  window.early = {}
  reads.forEach(function (path) {
    var address = path.replace('{id}', (/\\d+/.exec(location.pathname) || [''])[0])
    var answer = fetch(address)
    answer.catch(function () {}) // whoever takes it is told
    window.early[address] = { sent: Date.now(), answer: answer }
  })
})(${JSON.stringify(readFirst.always)}, ${JSON.stringify(readFirst.business)}, ${JSON.stringify(pages)})
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
    const pages = routes().flatMap(({ address, page }): Page[] => {
      const chunk = [...chunks.values()].find((c) => c.facadeModuleId?.endsWith(`/src/${page}`))
      if (!chunk) return []
      const pattern = `^${address.replace(/:id\(\\\\d\+\)/, '\\d+')}$`
      const files = [...filesOf(chunk, chunks)].filter((f) => !always.has(f))
      return [{ address: pattern, files, reads: readFirst.pages[address.replace('\\\\', '\\')] ?? [] }]
    })
    if (pages.length < 10) throw new Error(`early: only ${pages.length} pages found in the router`)
    const source = script(pages)
    const name = `assets/early-${createHash('sha256').update(source).digest('base64url').slice(0, 8)}.js`
    writeFileSync(path.join(dir!, name), source)
    const index = path.join(dir!, 'index.html')
    writeFileSync(
      index,
      readFileSync(index, 'utf8').replace(
        '<head>',
        `<head>\n    <script async fetchpriority="high" src="/${name}"></script>`,
      ),
    )
  },
}
