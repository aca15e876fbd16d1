// Reads `go test -json` and prints a line a package, and the output of what failed.
import { readFileSync } from 'node:fs'

const output = new Map()
for (const line of readFileSync(process.argv[2], 'utf8').split('\n')) {
  if (!line.startsWith('{')) continue
  const e = JSON.parse(line)
  const key = `${e.Package ?? e.ImportPath} ${e.Test ?? ''}`
  if (e.Action === 'output' || e.Action === 'build-output') output.set(key, (output.get(key) ?? '') + e.Output)
  if (e.Action === 'fail' || e.Action === 'build-fail') console.log(output.get(key) ?? `${key} failed`)
  if (e.Action === 'pass' && !e.Test) console.log(`ok ${e.Package} ${e.Elapsed}s`)
}
