import { expect } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { choose } from './fields.mjs'
import { test } from './device'
import { startStudio } from './studio.mjs'

// Pictures: put in, read, described, put on a product, put away.

let studio: Awaited<ReturnType<typeof startStudio>>
test.beforeAll(async () => {
  studio = await startStudio({ port: 8471, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

const heic = readFileSync(new URL('../internal/artwork/testdata/boat.heic', import.meta.url))
// what follows a PNG's end makes it another file and the same picture
const boat = readFileSync(new URL('../internal/demo/pictures/boat.png', import.meta.url))

test('several are put in at once, each says what became of it, and they go on a product', async ({ page }) => {
  await page.goto(`${studio.url}/prints`)
  await page.locator('input[type=file][multiple]').setInputFiles([
    { name: 'two_boats at the quay.heic', mimeType: 'image/heic', buffer: heic },
    { name: 'again.png', mimeType: 'image/png', buffer: boat },
    { name: 'diary.png', mimeType: 'image/png', buffer: Buffer.from('dear diary') },
  ])
  const sent = page.getByRole('region', { name: 'Being put in' })
  await expect(sent.getByText('It is here already, as “Harbour at noon”.')).toBeVisible()
  await expect(sent.getByText(/This is no picture that can be read here/)).toBeVisible()
  await expect(sent.getByRole('status')).toHaveText('2 pictures were put in')
  await sent.getByRole('button', { name: 'Done with these' }).click()

  const card = page.getByRole('button', { name: /two boats at the quay/ })
  await expect(card).toContainText('sharp up to 50 mm wide')
  await expect(card).toContainText('who may use it is not said')
  await card.click()
  const tray = page.getByRole('complementary', { name: 'Picture' })
  await expect(tray.getByText('600 × 400 pixels')).toBeVisible()
  await tray.getByLabel('Title').fill('Two boats')
  await choose(tray.getByLabel('It is', { exact: true }), 'my own')
  await tray.getByText('It shows people').click()
  await tray.getByRole('button', { name: 'Save' }).click()
  await expect(tray.getByText(/say who of the people shown agreed/)).toBeVisible()
  await tray.getByLabel('Who agreed').fill('both rowers, on paper')
  await tray.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Saved. It holds wherever the picture is.')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Two boats/ })).not.toContainText('who may use it')

  await page.goto(`${studio.url}/products/6`)
  const shown = page.locator('svg[role=img] image')
  const before = await shown.getAttribute('href')
  await page.getByRole('button', { name: 'Blank and picture', exact: true }).click()
  await expect(page.getByLabel('Pixels an inch')).toHaveCount(0)
  await choose(page.getByLabel('Picture', { exact: true }), 'Two boats')
  await page.getByRole('button', { name: 'Save and check' }).click()
  await expect(shown).not.toHaveAttribute('href', before!)
  await expect(page.getByText(/pixels an inch at this size/).first()).toBeVisible()
})

test('a picture that is on a product stays, another is put away and taken out again', async ({ page }) => {
  await page.goto(`${studio.url}/prints?tray=artwork:1`)
  const tray = page.getByRole('complementary', { name: 'Picture' })
  await tray.getByRole('button', { name: 'Put it away' }).click()
  await expect(page.getByText(/Crew ornament uses “?"?Harbour at noon/)).toBeVisible()
  await page.goto(`${studio.url}/prints`)
  await page.locator('input[type=file][multiple]').setInputFiles({ name: 'spare.png', mimeType: 'image/png', buffer: Buffer.concat([boat, Buffer.from('x')]) })
  await page.getByRole('button', { name: /^spare/ }).click()
  await tray.getByRole('button', { name: 'Put it away' }).click()
  await expect(page.getByRole('button', { name: /^spare/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: /^spare/ })).toBeVisible()
})

test('what did not get through is sent again', async ({ page }) => {
  await page.goto(`${studio.url}/prints`)
  await page.route('**/api/artwork-files?*', (route) => route.abort())
  await page.locator('input[type=file][multiple]').setInputFiles({ name: 'late.png', mimeType: 'image/png', buffer: Buffer.concat([boat, Buffer.from('late')]) })
  const sent = page.getByRole('region', { name: 'Being put in' })
  await expect(sent.getByText('Tidy Kiln was not reached.')).toBeVisible()
  await page.unroute('**/api/artwork-files?*')
  await sent.getByRole('button', { name: 'Send again' }).click()
  await expect(page.getByRole('button', { name: /^late/ })).toContainText('sharp up to')
})

test('what is made anew has its picture from the beginning', async ({ page }) => {
  await page.goto(`${studio.url}/products/new`)
  await page.getByLabel('Name it').fill('Heron disc')
  await choose(page.getByLabel('Picture', { exact: true }), 'Heron at the landing')
  const drawn = page.getByRole('img', { name: 'A drawing of the Heron disc' })
  const picture = await drawn.locator('image').getAttribute('href')
  await page.getByLabel('Picture width').fill('60 mm')
  await page.getByLabel('Picture height').fill('60 mm')
  await page.getByRole('button', { name: /^Make it so/ }).first().click()
  await expect(page.getByRole('heading', { level: 1, name: 'Heron disc' })).toBeVisible()
  await expect(drawn.locator('image')).toHaveAttribute('href', picture!)
  await page.getByRole('button', { name: 'Blank and picture', exact: true }).click()
  await expect(page.getByText('It is sharp up to 101 mm wide.')).toBeVisible()
})
