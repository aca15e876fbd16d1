// Tells what script and style of each page weigh on a first load, compressed.
import { chromium } from '@playwright/test'
import { startStudio } from './studio.mjs'

const pages = ['/', '/plan', '/orders', '/products', '/products/17', '/products/new', '/products/1/costs', '/products/prices', '/prints', '/prints/sheets', '/prints/design/1', '/stores', '/stores?view=shelf', '/notebook', '/workshop']

const studio = await startStudio({ port: 8434, at: '2027-05-04T10:26:00Z' })
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })
try {
  console.log('| page | script, kB | style, kB |\n|---|---|---|')
  for (const path of pages) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    await page.goto(studio.url + path)
    await page.waitForLoadState('networkidle')
    const [script, style] = await page.evaluate(() =>
      ['.js', '.css'].map((end) =>
        performance
          .getEntriesByType('resource')
          .filter((r) => new URL(r.name).pathname.endsWith(end))
          .reduce((sum, r) => sum + r.encodedBodySize, 0),
      ),
    )
    console.log(`| ${path} | ${(script / 1000).toFixed(1)} | ${(style / 1000).toFixed(1)} |`)
    await context.close()
  }
} finally {
  await browser.close()
  await studio.stop()
}
