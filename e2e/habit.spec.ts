import { expect, type Page } from '@playwright/test'
import { open, test } from './device'
import { choose, chosen } from './fields.mjs'
import { startStudio } from './studio.mjs'

// Times, dates, numbers and money as one studio is used to them, the same on every page.

let demo: Awaited<ReturnType<typeof startStudio>>
let empty: Awaited<ReturnType<typeof startStudio>>
test.beforeAll(async () => {
  demo = await startStudio({ port: 8461, at: '2027-05-04T10:26:00Z' })
  empty = await startStudio({ port: 8462, at: '2027-05-04T10:26:00Z', empty: true })
})
test.afterAll(async () => {
  await demo.stop()
  await empty.stop()
})

const pages = [
  '/', '/plan', '/orders', '/orders/customers', '/orders/owed', '/orders/papers', '/workshop/texts', '/orders/labels', '/orders?tray=order:1', '/orders/quotes', '/orders?tray=quote:2', '/products', '/products/new', '/products/library', '/products/17', '/products/17/costs', '/products/prices',
  '/prints', '/prints?tray=artwork:1', '/prints/sheets', '/prints/design/1', '/prints/proof/4', '/stores', '/stores?view=shelf', '/stores?view=bought', '/notebook', '/notebook/batches', '/workshop', '/workshop/access', '/workshop/trail', '/workshop/health', '/workshop/terms', '/orders?tray=customer:1',
  '/orders?tray=order:4', '/orders?tray=new-order', '/plan?tray=lot:4', '/plan?tray=new-batch', '/plan?tray=what-if', '/plan?tray=suggestions', '/stores?tray=material:5', '/stores?tray=receipt:5',
  '/stores?view=shelf&tray=shelf:10', '/products/prices?tray=outlet:2',
]

// foreign finds, in all that can be read and in all fields, what is not written so.
const foreign = (page: Page, unusual: RegExp) =>
  page.evaluate((source) => {
    const found = new RegExp(source, 'gu')
    const texts = [document.body.innerText, ...[...document.querySelectorAll('input, textarea')].map((e) => (e as HTMLInputElement).value)]
    const said = [...document.querySelectorAll('[aria-label], [data-tip]')].flatMap((e) => [e.getAttribute('aria-label') ?? '', (e as HTMLElement).dataset.tip ?? ''])
    return [...texts, ...said].flatMap((t) => [...t.matchAll(found)].map((m) => t.slice(Math.max(0, m.index - 30), m.index + 30).replaceAll('\n', ' ')))
  }, unusual.source)

test('a studio’s habits hold on every page', async ({ page }) => {
  test.setTimeout(240_000)
  await open(page, `${demo.url}/workshop`)
  await choose(page.getByLabel('Times'), '2:10 PM')
  await choose(page.getByLabel('Dates'), 'May 31, 05/31/2027')
  await choose(page.getByLabel('Decimals'), 'a comma, 2,5')
  await choose(page.getByLabel('Money'), '12,50 €')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Saved.')).toBeVisible()
  // a time of day without its half, a decimal point, a day before its month, the sign before its amount
  const unusual = /(?<![\d:])(?:[01]?\d|2[0-3]):[0-5]\d(?![:\d])(?!\s?[AP]M)|\d\.\d|\b\d{1,2} (?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)|€\d/
  const found: Record<string, string[]> = {}
  for (const path of pages) {
    await open(page, demo.url + path)
    const here = await foreign(page, unusual)
    if (here.length) found[path] = [...new Set(here)]
  }
  expect(found).toEqual({})
})

test('a new studio has the habits of the browser that sets it up', async ({ browser }) => {
  for (const [locale, habits] of [
    ['en-US', { Times: '2:10 PM', Dates: 'May 31, 05/31/2027', 'A week begins on': 'Sunday', Decimals: 'a point, 2.5', Money: '€12.50' }],
    ['de-DE', { Times: '14:10', Dates: '31 May, 31/05/2027', 'A week begins on': 'Monday', Decimals: 'a comma, 2,5', Money: '12,50 €' }],
  ] as const) {
    const context = await browser.newContext({ locale })
    const page = await context.newPage()
    await page.goto(`${empty.url}/workshop`)
    for (const [field, shown] of Object.entries(habits)) await expect(chosen(page.getByLabel(field, { exact: true }))).toHaveText(shown)
    await context.close()
  }
})
