import { expect, type Page } from '@playwright/test'
import { card, resting } from './bench'
import { test } from './device'
import { startStudio } from './studio.mjs'

// What is done at the desk, and what happens when two people do it at once.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio

test.describe.configure({ mode: 'serial' })
test.beforeAll(async () => {
  studio = await startStudio({ port: 8445, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

const tray = (page: Page, name: string) => page.getByRole('complementary', { name })

test('a price that is none is refused beside its field, and kept as it was typed', async ({ page }) => {
  await page.goto(`${studio.url}/products/1`)
  await page.getByRole('button', { name: 'Change name or price' }).click()
  await page.getByLabel('Price, EUR').fill('seventeen')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText(/an amount such as 10.50/)).toBeVisible()
  await expect(page.getByLabel('Price, EUR')).toHaveValue('seventeen')
  await page.getByLabel('Price, EUR').fill('17.00')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('17.00').first()).toBeVisible()
})

test('an order keeps the price it was taken at, and its date can be moved', async ({ page }) => {
  await page.goto(`${studio.url}/orders?tray=order:4`)
  const order = tray(page, 'Order')
  await expect(order.getByText('at 15.50 EUR each')).toBeVisible()
  await order.getByRole('button', { name: 'Change' }).click()
  await order.getByLabel('Due on').fill('2027-05-01')
  await order.getByRole('button', { name: 'Save' }).click()
  await expect(order.getByText('this day is past')).toBeVisible()
  await order.getByLabel('Due on').fill('2027-05-10')
  await order.getByLabel('Note').fill('Deliver to the boathouse door')
  await order.getByRole('button', { name: 'Save' }).click()
  await expect(order.getByText('Due date moved from 2027-05-08 to 2027-05-10')).toBeVisible()
  await expect(order.getByText('Deliver to the boathouse door')).toBeVisible()
})

test('a step nobody took up is entered afterwards, refused in the future, and undone', async ({ page }) => {
  await page.goto(`${studio.url}/?tray=lot:3`)
  const lot = tray(page, 'Lot')
  await lot.getByRole('button', { name: 'It was done earlier' }).click()
  await lot.getByLabel('Begun at: time').fill('09:30')
  await lot.getByLabel('Done at: time').fill('23:00')
  await lot.getByRole('button', { name: 'Enter it' }).click()
  await expect(lot.getByText(/still to come/i).first()).toBeVisible()
  await lot.getByLabel('Done at: time').fill('09:50')
  await lot.getByRole('button', { name: 'Enter it' }).click()
  await expect(lot.getByRole('heading', { name: 'Next: Look and decide' })).toBeVisible()
  await expect(resting(page, '4 × Lamp-night ornament')).toContainText('ready 10:50')
  await lot.getByRole('button', { name: 'Undo done' }).click()
  await expect(lot.getByRole('heading', { name: 'In hand now: Clear the paper, second round' })).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()
  await card(page, 'Clear the paper, second round').getByRole('button', { name: 'Give back' }).click()
})

test('pieces that go again become a lot of their own', async ({ page }) => {
  await page.goto(studio.url)
  const step = card(page, 'Clear the paper, first round')
  await step.getByRole('button', { name: /again$/ }).click()
  await step.getByRole('button', { name: 'Two · Osric' }).click()
  await step.getByRole('button', { name: 'Six · Birte' }).click()
  await expect(step.getByText('6', { exact: true })).toBeVisible()
  await step.getByRole('button', { name: /^Done/ }).click()
  await expect(resting(page, '6 × Crew ornament').filter({ hasText: 'then clear the paper, second round' })).toBeVisible()
  await expect(resting(page, '2 × Crew ornament').filter({ hasText: 'then clear the paper, first round' })).toBeVisible()
})

test('hours that end before they begin are refused beside their day, and nothing typed is lost', async ({ page }) => {
  await page.goto(`${studio.url}/workshop`)
  await page.getByLabel('Monday to').first().fill('08:00')
  await page.getByLabel('Rack places').fill('144')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('hours must end after they begin').first()).toBeVisible()
  await expect(page.getByLabel('Rack places')).toHaveValue('144')
  await page.getByLabel('Monday to').first().fill('16:00')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Saved.', { exact: true })).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('Rack places')).toHaveValue('144')
})

test('a batch nobody has begun is abandoned, and its names are open again', async ({ page }) => {
  await page.goto(`${studio.url}/plan?tray=new-batch`)
  await page.getByLabel('Of', { exact: true }).selectOption({ label: 'Slipway sign · 4 wanted' })
  await page.getByRole('button', { name: 'Start 4 in one lot' }).click()
  await expect(page.getByText(/Batch \d+ made up/)).toBeVisible()
  await page.getByRole('button', { name: /Sand and wipe, 4 × Slipway sign, .*planned/ }).first().click()
  await tray(page, 'Lot').getByRole('button', { name: /^Abandon batch/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Abandon it' }).click()
  await expect(tray(page, 'Lot')).toHaveCount(0)
  await page.goto(`${studio.url}/`)
  await expect(page.getByText('4 × Slipway sign wanted')).toBeVisible()
})

test('the server going away is said calmly, and what was typed is kept', async ({ page }) => {
  await page.goto(`${studio.url}/orders?tray=new-order`)
  await page.getByLabel('Customer').fill('Kept through the storm')
  await page.getByLabel(/^Lettering/).fill('Ada')
  await expect(page.locator('.promise[aria-busy="false"]')).toBeVisible()
  await page.route('**/api/**', (route) => route.abort())
  await page.getByRole('button', { name: /^Promise/ }).click()
  await expect(page.getByText('Tidy Kiln is not reached just now.').first()).toBeVisible()
  await expect(page.getByLabel('Customer')).toHaveValue('Kept through the storm')
  await page.unroute('**/api/**')
  // it goes on by itself
  await expect(page.getByRole('heading', { name: 'Kept through the storm' })).toBeVisible()
})
