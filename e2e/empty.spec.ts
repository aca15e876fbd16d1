import { setDay } from './fields.mjs'
import { expect } from '@playwright/test'
import { promise } from './bench'
import { check } from './axe'
import { test } from './device'
import { startStudio } from './studio.mjs'

// An empty studio: what each page is for, and the way to a first planned batch.

type Studio = Awaited<ReturnType<typeof startStudio>>
let demo: Studio
let empty: Studio

test.beforeAll(async () => {
  demo = await startStudio({ port: 8449, at: '2027-05-04T10:26:00Z' })
  empty = await startStudio({ port: 8444, at: '2027-05-04T10:26:00Z', empty: true })
})
test.afterAll(async () => {
  await demo.stop()
  await empty.stop()
})

const says: Record<string, RegExp> = {
  '/': /Take an order, make up a batch, and its first step stands here/,
  '/plan': /Make up a batch, and its steps find their places in your hours/,
  '/orders': /Take the first one: it shows at once what it costs/,
  '/orders/customers': /Whoever orders stands here by name/,
  '/orders/quotes': /What you offer to somebody stands here/,
  '/orders/owed': /Nothing is owed/,
  '/workshop/texts': /a line with one of which nothing is known is left out/,
  '/orders/papers': /No invoice or receipt was issued/,
  '/orders/labels': /no product to put a price on yet/,
  '/workshop/terms': /Asked ahead/,
  '/products': /Say what you want to make, and the methods that suit it are ranked/,
  '/products/new': /What can I make\?/,
  '/products/library': /Gel-medium lift/,
  '/products/prices': /Nothing is made here yet, so nothing has a price/,
  '/prints': /No picture is here yet/,
  '/prints/sheets': /No batch waits to be printed/,
  '/stores': /what is there is enough for all that is planned/,
  '/stores?view=shelf': /Finished pieces without an order lie here/,
  '/stores?tray=receipt': /What you bought/,
  '/stores?tray=files': /Take one in/,
  '/notebook': /Cloudy or grey when dry/,
  '/workshop/access': /Until now the studio is open/,
  '/workshop/health': /Nothing is here yet that could be lost|keeps no backups/,
  '/workshop/trail': /Nothing of that was written/,
  '/workshop': /Hands are planned inside these hours only/,
  '/orders?tray=new-order': /Make the first product, then take its order/,
  '/plan?tray=new-batch': /Nothing is made here yet. Make the first product/,
  '/plan?tray=suggestions': /Nothing is wanted that is not made up/,
  '/plan?tray=what-if': /Suppose something/,
}
for (const [path, shows] of Object.entries(says)) {
  test(`the empty studio at ${path} says what it is for and what to do next`, async ({ page }) => {
    await check(page, empty.url, { path, shows })
  })
}

test('an owner is led from nothing to a first planned batch', async ({ page }) => {
  await page.goto(empty.url)
  const steps = page.getByRole('navigation', { name: 'First steps' })
  const go = (name: string) => steps.getByRole('link', { name }).click()
  await expect(steps.getByRole('listitem')).toHaveText(['Your hours, next', 'What you make, to come', 'An order, to come', 'Its batch, to come'])

  await go('Say when you work')
  await page.getByLabel('Name').first().fill('Maren')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(steps.getByRole('listitem').first()).toHaveText('Your hours, done')

  await go('Choose what to make')
  await page.getByLabel('Name it').fill('Swan ornament')
  await page.getByLabel('Across').fill('three inches')
  await expect(page.getByText('is not a unit known here').first()).toBeVisible()
  await page.getByLabel('Across').fill('3 1/2 in')
  await page.getByRole('button', { name: 'Make it so, by Gel-medium lift' }).click()
  await expect(page.getByRole('heading', { name: 'Swan ornament' })).toBeVisible()
  await expect(page.getByText('88.9 mm across')).toBeVisible()

  await go('Take an order')
  await page.getByLabel('Customer').fill('Reed Choir')
  await page.getByLabel('Pieces', { exact: true }).fill('6')
  await promise(page)
  await expect(page.getByText(/Order \d+ taken/)).toBeVisible()

  await go('Make up its batch')
  await expect(page.getByLabel('Pieces to start')).toHaveValue('7')
  await expect(page.getByLabel('One pilot piece through removal first')).toBeChecked()
  await page.getByRole('button', { name: 'Start 7 in 2 lots' }).click()
  await expect(page.getByRole('button', { name: /Sand, 7 pieces in 2 lots, .*planned/ }).first()).toBeVisible()
  await expect(steps).toContainText('Your first batch is planned.')
  await go('See today')
  await expect(steps).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'Ready for hands' }).getByText('Sand and wipe').first()).toBeVisible()
})

test('a pilot piece that would make a promise late is left out, and says whom it moves', async ({ page }) => {
  await page.goto(`${empty.url}/orders?tray=new-order`)
  await page.getByLabel('Customer').fill('Ferry Fair')
  await page.getByLabel('Pieces', { exact: true }).fill('5')
  await setDay(page.getByLabel('Due on'), '2027-05-08')
  await expect(page.getByRole('heading', { name: /^Ready Friday/ })).toBeVisible()
  await promise(page)
  await expect(page.getByText(/Order \d+ taken/)).toBeVisible()
  await page.goto(`${empty.url}/plan?tray=new-batch`)
  const pilot = page.getByLabel('One pilot piece through removal first')
  await expect(page.getByText('It would make a promise late, so it is left out')).toBeVisible()
  await expect(pilot).not.toBeChecked()
  await pilot.check()
  await expect(page.getByText('Starting it so breaks')).toBeVisible()
  await expect(page.getByRole('listitem').filter({ hasText: 'Ferry Fair' }).getByText('late', { exact: true })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Start .* in 2 lots, and break/ })).toBeVisible()
  await pilot.uncheck()
  await expect(page.getByRole('button', { name: /in one lot$/ })).toBeVisible()
})

test('a studio under way says nothing of first steps', async ({ page }) => {
  await page.goto(demo.url)
  await expect(page.getByText('Ready for hands')).toBeVisible()
  await expect.poll(() => page.evaluate(() => localStorage.getItem('first-steps'))).toBe('"past"')
  await expect(page.getByRole('navigation', { name: 'First steps' })).toHaveCount(0)
})
