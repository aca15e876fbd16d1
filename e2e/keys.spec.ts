import { expect, type Page } from '@playwright/test'
import { card, takeUp } from './bench'
import { drawn, open, test } from './device'
import { choose, chosen } from './fields.mjs'
import { startStudio } from './studio.mjs'

// The keys, and what is shown in US measures.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio

test.describe.configure({ mode: 'serial' })
test.beforeAll(async () => {
  studio = await startStudio({ port: 8446, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

test('the number keys open the sections, in their order', async ({ page }) => {
  await open(page, studio.url)
  for (const [key, path] of [['2', '/plan'], ['3', '/orders'], ['4', '/products'], ['5', '/prints'], ['6', '/stores'], ['7', '/notebook'], ['8', '/workshop'], ['1', '/']] as const) {
    await page.keyboard.press(key)
    await expect(page).toHaveURL(studio.url + path)
  }
})

test('N makes something new of what the section is about', async ({ page }) => {
  for (const [path, name] of [['/orders', 'New order'], ['/plan', 'New batch'], ['/stores', 'What you bought'], ['/', 'New order']] as const) {
    await open(page, studio.url + path)
    await page.keyboard.press('n')
    await expect(page.getByRole('complementary', { name })).toBeFocused()
  }
})

test('N on the products asks what can be made', async ({ page }) => {
  await open(page, studio.url + '/products')
  await page.keyboard.press('n')
  await expect(page).toHaveURL(`${studio.url}/products/new`)
})

test('the arrows move along the recipe, and Enter opens a step', async ({ page }) => {
  await open(page, studio.url + '/products/1')
  await page.getByRole('button', { name: /^Sand and wipe: / }).focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Step 2: Base coat' })).toBeVisible()
  await page.getByRole('button', { name: /^Base coat: / }).focus()
  await page.keyboard.press('Alt+ArrowLeft')
  await expect(page.getByRole('region', { name: 'Step 1: Base coat' })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Base coat: / })).toBeFocused()
  await page.keyboard.press('Delete')
  await expect(page.getByRole('button', { name: /^Base coat: / })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Make up a batch' })).toBeVisible()
})

test('Space puts down and takes up, D marks done, and the toast undoes it', async ({ page }) => {
  await open(page, studio.url)
  await page.keyboard.press(' ')
  await expect(card(page, 'Clear the paper, first round')).toContainText('put down')
  await page.keyboard.press(' ')
  await expect(card(page, 'Clear the paper, first round')).not.toContainText('put down')
  await page.keyboard.press('d')
  await expect(card(page, 'Clear the paper, first round')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(card(page, 'Clear the paper, first round')).toContainText('put down')
})

test('keys do nothing while something is typed', async ({ page }) => {
  await open(page, studio.url + '/orders?tray=new-order')
  await page.getByLabel('Customer').pressSequentially('f1n2d')
  await expect(page.getByLabel('Customer')).toHaveValue('f1n2d')
  await expect(page).toHaveURL(/\/orders\?tray=new-order$/)
  await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('single keys can be switched off on a device, and stay off', async ({ page }) => {
  await open(page, studio.url)
  await page.keyboard.press('h')
  await page.getByLabel('Single keys act on this device').uncheck()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.reload()
  await drawn(page)
  await page.keyboard.press('3')
  await page.keyboard.press('h')
  await expect(page).toHaveURL(`${studio.url}/`)
  await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('find leads to an order by a name on one of its pieces', async ({ page }) => {
  await open(page, studio.url + '/workshop')
  await page.keyboard.press('f')
  await page.getByLabel(/^Find an order/).fill('osric')
  await page.getByRole('button', { name: /Withy Rowing Club, order 1004/ }).click()
  await expect(page.getByRole('complementary', { name: 'Order' }).getByText('Two · Osric')).toBeVisible()
  await page.goBack()
  await expect(page).toHaveURL(`${studio.url}/workshop`)
})

test('who is at the device is remembered, and takes up what is taken up', async ({ page }) => {
  await open(page, studio.url)
  await choose(page.getByLabel('Who is at this device'), 'Bram')
  await page.reload()
  await expect(chosen(page.getByLabel('Who is at this device'))).toHaveText('Bram')
  await takeUp(page, 'Seal, second coat', '6 × Slipway sign')
  await expect(card(page, 'Seal, second coat')).toContainText('In hand · Bram')
})

test('in US measures sizes are shown and read in inches', async ({ page }) => {
  await open(page, studio.url + '/workshop')
  await choose(page.getByLabel('Measures'), 'US')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Saved.', { exact: true })).toBeVisible()
  await open(page, studio.url + '/products/new')
  await page.getByLabel('Name it').fill('Inch ornament')
  await page.getByLabel('Across').fill('3 3/4')
  await page.getByLabel('Thickness').fill('3/8')
  await page.getByLabel('Price, €').fill('12,5')
  await page.getByRole('button', { name: 'Make it so, by Gel-medium lift' }).click()
  await expect(page.getByText('3 3/4 in across')).toBeVisible()
  await expect(page.getByText('12.50').first()).toBeVisible()
})
