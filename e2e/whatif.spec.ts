import { expect, type Page } from '@playwright/test'
import { open, test } from './device'
import { choose, setDay } from './fields.mjs'
import { startStudio } from './studio.mjs'

// What would be, on the Plan page: supposed, drawn, made so and taken back.

let studio: Awaited<ReturnType<typeof startStudio>>
test.beforeEach(async () => {
  studio = await startStudio({ port: 8464, at: '2027-05-04T10:26:00Z' })
})
test.afterEach(() => studio.stop())

const tray = (page: Page) => page.getByRole('complementary', { name: 'What if' })
const banner = (page: Page) => page.getByText('the plan as it would be. Nothing is changed.')

test('a person away is thought about, and dropped', async ({ page }) => {
  await open(page, `${studio.url}/plan`)
  await page.getByRole('button', { name: 'What if …' }).click()
  await expect(tray(page)).toContainText('nothing is changed until you say so')
  await tray(page).getByRole('button', { name: 'Somebody is away' }).click()
  await expect(banner(page)).toBeVisible()
  await expect(tray(page)).toContainText(/Orders: \d+ late, 1 late as it is/)
  // A day that costs nobody their promise calls nobody; nine do.
  await expect(tray(page)).toContainText('It breaks nobody’s promise.')
  await expect(tray(page)).toContainText(/\d+ ready on another day, in time all the same/)
  await setDay(tray(page).getByLabel('to', { exact: true }), '2027-05-13')
  await expect(tray(page)).toContainText(/Call (this customer|these \d+)/)
  await tray(page).getByRole('button', { name: 'Drop it' }).click()
  await expect(banner(page)).toHaveCount(0)
})

test('an order that is thought about is taken from there, with its days on the way', async ({ page }) => {
  await open(page, `${studio.url}/plan?tray=what-if`)
  await tray(page).getByRole('button', { name: 'An order more' }).click()
  await tray(page).getByRole('button', { name: 'One more rack' }).click()
  await choose(tray(page).getByLabel('Ordered'), 'Lamp-night ornament')
  await tray(page).getByLabel('Pieces', { exact: true }).fill('5')
  await expect(tray(page).locator('[aria-busy="false"]')).toContainText(/Orders: /)
  await tray(page).getByRole('button', { name: 'Make the rest so' }).click()
  await expect(page.getByText('It is so now.')).toBeVisible()
  await tray(page).getByRole('button', { name: 'Take this order' }).click()
  const order = page.getByRole('complementary', { name: 'New order' })
  await expect(order.getByLabel('Pieces', { exact: true })).toHaveValue('5')
  await order.getByLabel('Days on the way').fill('2')
  await order.getByLabel('Days on the way').blur()
  await expect(order).toContainText(/2 days on the way: at the customer’s by .* at the soonest/)
  await setDay(order.getByLabel('Arrives by'), '22/05/2027')
  await expect(order.getByLabel('Due on')).toHaveValue('20/05/2027')
  await order.getByLabel('Customer').fill('Heron Club')
  await order.getByLabel('Customer').press('Tab')
  await order.getByRole('button', { name: /^Promise / }).click()
  await expect(page.getByRole('complementary', { name: 'Order' })).toContainText(/Due Thu 20 May, at the customer’s by Sat 22 May/)
  await page.goto(`${studio.url}/workshop`)
  await expect(page.getByLabel('Rack or shelf').nth(2)).toHaveValue('Another rack')
})

test('a bar is drawn to another time, held there, and let go', async ({ page }) => {
  await open(page, `${studio.url}/plan`)
  const bar = page.getByRole('group', { name: 'Wednesday 5 May' }).getByRole('button', { name: /^Lay, 8 pieces of Lamp-night ornament/ })
  const first = page.getByRole('group', { name: /Tuesday 4 May/ }).getByRole('button', { name: /^(Lay|Seal).*planned/ }).first()
  const drawn = (await bar.count()) ? bar : first
  await drawn.scrollIntoViewIfNeeded()
  const box = (await drawn.boundingBox())!
  await page.mouse.move(box.x + 6, box.y + 8)
  await page.mouse.down()
  await page.mouse.move(box.x + 60, box.y + 8, { steps: 5 })
  await page.mouse.up()
  await expect(tray(page)).toBeVisible()
  await expect(tray(page).getByLabel('at', { exact: true }).first()).not.toHaveValue('')
  await expect(tray(page)).toContainText(/late as it is/)
  await tray(page).getByRole('button', { name: 'Make it so' }).click()
  await expect(page.getByText('It is so now.')).toBeVisible()
  await expect(banner(page)).toHaveCount(0)
  const held = page.getByRole('button', { name: /held there$/ }).first()
  await held.click()
  const lot = page.getByRole('complementary', { name: /^(Lot|In one go)$/ })
  if ((await lot.getAttribute('aria-label')) === 'In one go') await lot.getByRole('listitem').first().getByRole('button').click()
  await page.getByRole('button', { name: 'Let it go' }).click()
  await expect(page.getByRole('button', { name: 'Let it go' })).toHaveCount(0)
})

test('a bar is drawn to another day', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 1000 })
  await open(page, `${studio.url}/plan`)
  const drawn = page.getByRole('group', { name: /Tuesday 4 May/ }).getByRole('button', { name: /, planned, / }).first()
  const wednesday = page.getByRole('group', { name: /Wednesday 5 May/ })
  const [bar, day] = [(await drawn.boundingBox())!, (await wednesday.boundingBox())!]
  await page.mouse.move(bar.x + 3, bar.y + 8)
  await page.mouse.down()
  await page.mouse.move(bar.x + 3, day.y + 8, { steps: 6 })
  await page.mouse.up()
  await expect(tray(page).getByLabel('on', { exact: true }).first()).toHaveValue('05/05/2027')
})

test('what would make a lot earlier is tried on the plan', async ({ page }) => {
  await open(page, `${studio.url}/plan?tray=lot:6`)
  await page.getByRole('button', { name: 'What would make it earlier?' }).click()
  const ways = page.getByRole('list', { name: 'What would make it earlier' })
  await expect(ways.getByRole('listitem').first()).toContainText(/earlier.*if /)
  await ways.getByRole('button', { name: 'Try it on the plan' }).first().click()
  await expect(tray(page)).toContainText(/Orders: .* as it is/)
  await expect(banner(page)).toBeVisible()
})

test('what is to lie ready by a day is suggested, and planned in the gaps', async ({ page }) => {
  await open(page, `${studio.url}/stores?view=shelf&tray=shelf:10`)
  const shelf = page.getByRole('complementary', { name: 'Shelf' })
  await shelf.getByRole('button', { name: 'Goal' }).click()
  await shelf.getByLabel('Pieces to lie ready').fill('none')
  await shelf.getByRole('button', { name: 'Aim for that' }).click()
  await expect(shelf.getByText('at least 0')).toBeVisible()
  await shelf.getByLabel('Pieces to lie ready').fill('30')
  await shelf.getByRole('button', { name: 'Aim for that' }).click()
  await expect(shelf).toContainText('30 are to lie ready by')
  await page.goto(`${studio.url}/plan?tray=suggestions`)
  await expect(page.getByRole('complementary', { name: 'Suggested' })).toContainText(/pieces of .* to lie ready by/)
})

test('suggested batches are left out, brought back and made up', async ({ page }) => {
  await open(page, `${studio.url}/plan?tray=suggestions`)
  const suggested = page.getByRole('complementary', { name: 'Suggested' })
  await expect(suggested).toContainText('to be begun by')
  const names = suggested.getByRole('heading', { level: 2 })
  const before = await names.count()
  await suggested.getByRole('button', { name: /^Not so/ }).first().click()
  await expect(names).toHaveCount(before - 1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(names).toHaveCount(before)
  await suggested.getByRole('button', { name: /^Make (it|them) up$/ }).first().click()
  await expect(page.getByText(/made up. Their steps are on the plan/)).toBeVisible()
  await expect(names).toHaveCount(before - 1)
})
