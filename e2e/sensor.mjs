// Counts the statements that a page asks of the database: when it is opened,
// and when the room's sensor has written while it stands there.
import { chromium } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import { startStudio } from './studio.mjs'

const pages = ['/', '/plan', '/orders', '/products', '/products/17', '/products/1/costs', '/products/prices', '/prints', '/stores', '/stores?view=shelf', '/notebook', '/workshop']

const studio = await startStudio({ port: 8433, at: '2027-05-04T10:26:00Z' })
const home = path.join(studio.folder, 'mariadb')
const { port } = JSON.parse(readFileSync(path.join(home, 'server.json'), 'utf8'))
const secret = readFileSync(path.join(home, 'secret'), 'utf8').trim()

// statements is how many were asked so far, this one included.
function statements() {
  const said = execFileSync('mariadb', ['--no-defaults', '-h127.0.0.1', `-P${port}`, '-utidykiln', '-N', '-e', "SHOW GLOBAL STATUS LIKE 'Questions'"], { env: { ...process.env, MYSQL_PWD: secret }, encoding: 'utf8' })
  return Number(said.trim().split(/\s+/)[1])
}
const asking = (() => {
  const first = statements()
  return statements() - first
})()

// settled waits until nothing has been asked for a second, and gives the count.
async function settled() {
  let last = statements()
  for (;;) {
    await new Promise((resolve) => setTimeout(resolve, 1000))
    const now = statements() - asking
    // The stream looks for other processes' writes once a second.
    if (now - last <= 6) return now
    last = now + asking
  }
}

let raining = false
async function sensorWrites() {
  raining = !raining
  await fetch(`${studio.url}/api/room`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ simulating: true, raining }) })
}

// reads counts what pages read, by their requests.
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })
try {
  await settled()
  const before = await settled()
  await sensorWrites()
  const alone = (await settled()) - before
  console.log(`\na reading of the sensor alone: ${alone} statements\n`)
  console.log('| page | statements when opened | more when the sensor has written | answers read again |')
  console.log('|---|---|---|---|')
  for (const at of pages) {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
    const begun = await settled()
    await page.goto(studio.url + at)
    await page.waitForLoadState('load')
    const opened = await settled()
    let read = 0
    page.on('request', (r) => {
      if (r.url().includes('/api/') && r.method() === 'GET' && !r.url().includes('/api/changes')) read++
    })
    await sensorWrites()
    const after = await settled()
    console.log(`| ${at} | ${opened - begun} | ${Math.max(0, after - opened - alone)} | ${read} |`)
    await page.context().close()
  }
} finally {
  await browser.close()
  await studio.stop()
}
