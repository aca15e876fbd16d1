import { expect, test } from '@playwright/test'
import { check } from './axe'
import { startStudio } from './studio.mjs'

// An empty studio, and every page at phone and tablet width.

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

for (const path of ['/', '/plan', '/orders', '/products', '/products/new', '/products/library', '/notebook', '/workshop', '/orders?tray=new-order', '/plan?tray=new-batch']) {
  test(`the empty studio at ${path} says what to do next`, async ({ page }) => {
    await check(page, empty.url, { path, shows: /./ })
  })
}

for (const width of [390, 820]) {
  test(`no page scrolls sideways at ${width} px`, async ({ page }) => {
    await page.setViewportSize({ width, height: 844 })
    for (const path of ['/', '/plan', '/orders', '/products', '/products/1', '/products/17', '/products/new', '/products/library', '/notebook?product=1&sign=lifted', '/workshop', '/orders?tray=order:4', '/orders?tray=new-order']) {
      await page.goto(demo.url + path)
      await page.waitForLoadState('networkidle')
      const wider = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
      expect(wider, path).toBeLessThanOrEqual(0)
    }
  })
}

test('an owner goes from nothing to a first planned batch', async ({ page }) => {
  await page.goto(`${empty.url}/workshop`)
  await page.getByRole('button', { name: 'Add a person' }).click()
  await page.getByLabel('Name').first().fill('Maren')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Saved. The plan follows.')).toBeVisible()

  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Products' }).first().click()
  await page.getByRole('link', { name: 'What can I make?' }).click()
  await page.getByLabel('Name it').fill('Swan ornament')
  await page.getByLabel('Across').fill('three inches')
  await expect(page.getByText('is not a unit known here').first()).toBeVisible()
  await page.getByLabel('Across').fill('3 1/2 in')
  await page.getByRole('button', { name: 'Make it so, by Gel-medium lift' }).click()
  await expect(page.getByRole('heading', { name: 'Swan ornament' })).toBeVisible()
  await expect(page.getByText('88.9 mm across')).toBeVisible()

  await page.goto(`${empty.url}/plan?tray=new-batch`)
  await page.getByLabel('Pieces to start').fill('6')
  await expect(page.getByLabel('One pilot piece through removal first')).toBeChecked()
  await expect(page.getByLabel('In lots of')).toHaveValue('1 + 5')
  await page.getByRole('button', { name: 'Start 6 in 2 lots' }).click()
  await expect(page.getByRole('button', { name: /Sand and wipe, 5 × Swan ornament, .*planned/ }).first()).toBeVisible()
})
