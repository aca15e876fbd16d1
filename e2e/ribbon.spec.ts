import { expect, test, type Page } from '@playwright/test'
import { startStudio } from './studio.mjs'

// The day ribbon: hands by person, the rack, what is picked, folded to a line, and the turn to tomorrow.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio
test.beforeAll(async () => {
  studio = await startStudio({ port: 8446, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

const day = (page: Page) => page.getByRole('region', { name: 'The day', exact: true })

test('like work of one person is one bar, and its lots stand in the tray', async ({ page }) => {
  await page.goto(studio.url)
  await day(page).getByRole('button', { name: /^Seal, \d+ pieces in \d lots, / }).first().click()
  const work = page.getByRole('complementary', { name: 'In one go' })
  await expect(work.getByRole('heading', { name: 'Seal' })).toBeVisible()
  await work.getByRole('listitem').first().getByRole('button').click()
  await expect(page.getByRole('complementary', { name: 'Lot' }).getByText('Step by step')).toBeVisible()
})

test('a bar without room for its name says it on hover and on focus', async ({ page }) => {
  await page.goto(studio.url)
  const bars = day(page).locator('button.hands')
  await expect(bars.first()).toBeVisible()
  const narrow = await bars.evaluateAll((all) => all.findIndex((b) => b.clientWidth < 40))
  const said = (await bars.nth(narrow).getAttribute('aria-label'))!
  await bars.nth(narrow).hover()
  await expect(day(page).locator('.told')).toHaveText(said)
  await page.mouse.move(600, 600)
  await expect(day(page).locator('.told')).toHaveCount(0)
  await bars.nth(narrow).focus()
  await expect(day(page).locator('.told')).toHaveText(said)
})

test('a ring opens what is ready then, and an order leaves its own bars in colour', async ({ page }) => {
  await page.goto(`${studio.url}/orders`)
  await day(page).getByRole('button', { name: /^3 rests end from / }).first().click()
  const ready = page.getByRole('complementary', { name: 'Rests that end' })
  await expect(ready.getByRole('listitem')).toHaveCount(3)
  await page.getByRole('button', { name: /Withy Rowing Club/ }).first().click()
  await expect(day(page).locator('.hands.picked').first()).toBeVisible()
  await expect(day(page).locator('.hands.faded').first()).toBeVisible()
  await expect(day(page).locator('.life').first()).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(day(page).locator('.faded')).toHaveCount(0)
})

test('it is folded where the question is not time, unfolds with R, and remembers', async ({ page }) => {
  await page.goto(`${studio.url}/stores`)
  await expect(day(page).getByText('Now: clear the paper, first round, 8 pieces')).toBeVisible()
  await expect(day(page).getByText(/min over$/)).toBeVisible()
  await expect(day(page).getByText('Hands until 15:00')).toBeVisible()
  expect((await day(page).boundingBox())!.height).toBeLessThanOrEqual(38)
  await page.keyboard.press('r')
  await expect(day(page).getByRole('group', { name: /^Today from five/ })).toBeVisible()
  await page.goto(`${studio.url}/workshop`)
  await expect(day(page).getByRole('group', { name: /^Today from five/ })).toBeVisible()
  await page.goto(studio.url)
  await expect(day(page).getByRole('group', { name: /^Today from five/ })).toBeVisible()
  expect((await day(page).boundingBox())!.height).toBeLessThanOrEqual(110)
  await day(page).getByRole('button', { name: 'Fold the day' }).click()
  await expect(day(page).getByRole('button', { name: 'Unfold the day' })).toBeVisible()
  await page.reload()
  await expect(day(page).getByRole('button', { name: 'Unfold the day' })).toBeVisible()
})

test('once hands are over it turns to the night and tomorrow', async ({ page }) => {
  studio.setClock('2027-05-04T16:26:00Z')
  await page.goto(studio.url)
  await expect(day(page).getByRole('group', { name: /^Hands are over for today: .* from 09:00$/ })).toBeVisible()
  await page.goto(`${studio.url}/plan`)
  await expect(page.getByRole('heading', { name: 'This week holds every promise but one' })).toBeVisible()
  await page.getByRole('button', { name: /^See the ways out/ }).click()
  await expect(page.getByRole('complementary', { name: 'Order' }).getByRole('heading', { name: 'Regatta office' })).toBeVisible()
})
