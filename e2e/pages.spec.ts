import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { startStudio } from './studio.mjs'

type Studio = Awaited<ReturnType<typeof startStudio>>
let demo: Studio
let empty: Studio

test.beforeAll(async () => {
  demo = await startStudio({ port: 8443, at: '2027-05-04T10:26:00Z' })
  empty = await startStudio({ port: 8444, at: '2027-05-04T10:26:00Z', empty: true })
})
test.afterAll(async () => {
  await demo.stop()
  await empty.stop()
})

const states: Record<string, { path: string; shows: string | RegExp; open?: (page: Page) => Promise<unknown> }> = {
  Today: { path: '/', shows: 'Ready for hands' },
  'Today, naming spoils': { path: '/', shows: 'Tap the pieces that are lost.', open: (page) => page.getByRole('button', { name: /spoiled$/ }).click() },
  'Today, a rest not over': { path: '/', shows: 'I accept the risk', open: (page) => page.getByRole('button', { name: /^Begin early/ }).first().click() },
  Plan: { path: '/plan', shows: 'Tuesday 4 May to Monday 10 May' },
  'Plan with a lot': { path: '/plan?tray=lot:4', shows: 'Step by step' },
  'Plan with a new batch': { path: '/plan?tray=new-batch', shows: 'Pieces to start' },
  Orders: { path: '/orders', shows: 'This week' },
  'Orders with an order': { path: '/orders?tray=order:4', shows: 'What happened' },
  'Orders with a new order': { path: '/orders?tray=new-order', shows: 'An hour earns' },
  'A refused order': { path: '/orders?tray=new-order', shows: 'this cannot be empty', open: (page) => page.getByRole('button', { name: /^Promise/ }).click() },
  Products: { path: '/products', shows: 'Slipway sign' },
  'What can I make?': { path: '/products/new', shows: 'ways to make it' },
  'What can I make, refused': { path: '/products/new', shows: 'this cannot be empty', open: (page) => page.getByRole('button', { name: /^Make it so/ }).first().click() },
  Library: { path: '/products/library', shows: 'Printed tissue, melted in' },
  'Library with a method': { path: '/products/library', shows: 'Where practitioners differ', open: (page) => page.getByRole('button', { name: 'Gel-medium lift' }).click() },
  'Library, bringing a method in': { path: '/products/library', shows: 'A method file (JSON)', open: (page) => page.getByRole('button', { name: 'Bring a method in' }).click() },
  'Product with a step': { path: '/products/17', shows: 'What it uses', open: (page) => page.getByRole('button', { name: /^Clear wax: / }).click() },
  'Product with steps to add': { path: '/products/1', shows: 'Glitter ground', open: (page) => page.getByRole('button', { name: 'Add a step' }).click() },
  'Product with its facts': { path: '/products/1', shows: 'The picture and its print', open: (page) => page.getByRole('button', { name: 'Blank and picture', exact: true }).click() },
  'Product with its choices': { path: '/products/1', shows: 'Where does the medium go?', open: (page) => page.getByRole('button', { name: 'How we do it' }).click() },
  'Product with its versions': { path: '/products/1', shows: 'Keep it as a method of yours', open: (page) => page.getByRole('button', { name: 'Versions and copies' }).click() },
  'Product with a stop overruled': { path: '/products/5', shows: 'Overruled by Isolde' },
  Notebook: { path: '/notebook', shows: 'Cloudy or grey when dry' },
  'Notebook with a sign': { path: '/notebook?product=1&sign=lifted', shows: 'Change the recipe so' },
  'A batch': { path: '/?tray=batch:3', shows: 'Batch card to print' },
  Product: { path: '/products/1', shows: 'What a piece costs' },
  Workshop: { path: '/workshop', shows: 'People and their hours' },
  Find: { path: '/', shows: 'Withy Rowing Club, order 1004', open: (page) => findFor(page, 'Withy') },
  Keys: { path: '/', shows: 'Single keys act on this device', open: (page) => page.keyboard.press('h') },
  'Nothing here': { path: '/no/such/page', shows: 'There is nothing at this address' },
}

async function findFor(page: Page, text: string) {
  await page.keyboard.press('f')
  await page.getByLabel(/^Find an order/).fill(text)
}

async function check(page: Page, url: string, state: (typeof states)[string]) {
  const troubles: string[] = []
  page.on('pageerror', (e) => troubles.push(String(e)))
  page.on('console', (m) => m.type() === 'error' && !m.text().includes('status of 4') && troubles.push(m.text()))
  await page.goto(url + state.path)
  await page.waitForLoadState('networkidle')
  await state.open?.(page)
  await expect(page.getByText(state.shows).first()).toBeVisible()
  await expect(page.locator('.el-overlay.dialog-fade-enter-active, .dialog-fade-enter-active')).toHaveCount(0)
  const found = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']).analyze()
  expect(found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)).toEqual([])
  expect(troubles).toEqual([])
}

for (const [name, state] of Object.entries(states)) {
  test(`${name} has no accessibility violation and no script error`, ({ page }) => check(page, demo.url, state))
}

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

test('the keyboard alone reaches a step and opens it', async ({ page }) => {
  await page.goto(`${demo.url}/plan`)
  await page.waitForLoadState('networkidle')
  await page.keyboard.press('3')
  await expect(page).toHaveURL(/\/orders$/)
  await page.keyboard.press('n')
  await expect(page.getByRole('complementary', { name: 'New order' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary')).toHaveCount(0)
  await page.getByRole('group', { name: /^Today from five/ }).getByRole('button').first().focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('complementary', { name: 'Lot' })).toBeVisible()
})
