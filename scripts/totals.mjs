// Adds up the reports of a test run: "N passed, N failed, N skipped". A report
// that is missing or empty is a failure of its own.
import { existsSync, readFileSync } from 'node:fs'
import path from 'node:path'

const folder = process.argv[2]
const total = { passed: 0, failed: 0, skipped: 0 }
const read = (name) => (existsSync(path.join(folder, name)) ? readFileSync(path.join(folder, name), 'utf8') : '')

function count(name, add) {
  const before = total.passed + total.failed
  add(read(name))
  if (total.passed + total.failed === before) {
    console.error(`${name}: no test was run`)
    total.failed++
  }
}

count('go.json', (text) => {
  for (const line of text.split('\n')) {
    if (!line.startsWith('{')) continue
    const e = JSON.parse(line)
    if (e.Action === 'build-fail') total.failed++
    if (!e.Test) continue
    if (e.Action === 'pass') total.passed++
    if (e.Action === 'fail') total.failed++
    if (e.Action === 'skip') total.skipped++
  }
})
count('ui.json', (text) => {
  const r = text ? JSON.parse(text) : {}
  total.passed += r.numPassedTests ?? 0
  total.failed += r.numFailedTests ?? 0
  total.skipped += r.numPendingTests ?? 0
})
count('e2e.json', (text) => {
  const r = text ? JSON.parse(text).stats : {}
  total.passed += r.expected ?? 0
  total.failed += (r.unexpected ?? 0) + (r.flaky ?? 0)
  total.skipped += r.skipped ?? 0
})
console.log(`${total.passed} passed, ${total.failed} failed, ${total.skipped} skipped`)
process.exit(total.failed > 0 ? 1 : 0)
