import { expect, type Page } from '@playwright/test'
import { open, test } from './device'
import { choose } from './fields.mjs'
import { startStudio } from './studio.mjs'

// What is issued in writing, and what comes back after it was handed over.

let studio: Awaited<ReturnType<typeof startStudio>>
test.describe.configure({ mode: 'serial' })
test.beforeAll(async () => {
  studio = await startStudio({ port: 8478, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

const order = (page: Page) => page.getByRole('complementary', { name: 'Order' })
const papers = (page: Page) => order(page).getByRole('region', { name: 'Papers' })

test('an order is invoiced once, and its papers stay as issued', async ({ page }) => {
  await open(page, `${studio.url}/orders?tray=order:2`)
  await papers(page).getByRole('button', { name: 'Invoice' }).click()
  const form = order(page).getByRole('form', { name: 'An invoice' })
  await form.getByLabel('For').fill(Array.from({ length: 12 }, (_, i) => `line ${i}`).join('\n'))
  await form.getByRole('button', { name: 'Issue it' }).click()
  await expect(form.getByText('at most 10 lines')).toBeVisible()
  await form.getByLabel('For').fill('First lamp-night\n7 Osier Row')
  await form.getByRole('button', { name: 'Issue it' }).click()
  await expect(page.getByText('Invoice 42 is issued.')).toBeVisible()
  const link = papers(page).getByRole('link', { name: 'Invoice 42' })
  const pdf = await page.request.get(studio.url + (await link.getAttribute('href')))
  expect(pdf.headers()['content-type']).toBe('application/pdf')
  await expect(papers(page).getByRole('button', { name: 'Invoice', exact: true })).toHaveCount(0)
  await papers(page).getByRole('button', { name: 'Packing slip' }).click()
  await expect(papers(page).getByRole('link', { name: 'Packing slip 1' })).toBeVisible()
  await papers(page).getByRole('button', { name: 'Packing slip' }).click()
  await expect(page.getByText('Packing slip 1 is issued.').first()).toBeVisible()
  await expect(papers(page).getByRole('link', { name: /Packing slip/ })).toHaveCount(1)
})

test('what comes back is let off, made again, and its invoice credited', async ({ page }) => {
  await open(page, `${studio.url}/orders?tray=order:1`)
  await order(page).getByRole('button', { name: 'Receipt' }).click()
  await expect(order(page).getByRole('link', { name: 'receipt 41', exact: true })).toBeVisible()
  await order(page).getByRole('button', { name: 'Something came back' }).click()
  const form = order(page).getByRole('form', { name: 'Something came back' })
  await form.getByLabel('Lamp-night ornament, of 10').fill('2')
  await form.getByLabel('Lamp-night ornament, of 10').press('Tab')
  await choose(form.getByLabel('Why'), 'Bits of the picture are gone')
  await choose(form.getByLabel('The pieces go'), 'spoiled, and thrown away')
  await form.getByLabel('Let off').fill('161')
  await form.getByText('Make them again, for nothing').click()
  await form.getByRole('button', { name: 'Note it' }).click()
  await expect(form.getByText('from 0 to €160.00, which is what it asks')).toBeVisible()
  await form.getByLabel('Let off').fill('8')
  await form.getByRole('button', { name: 'Note it' }).click()
  const again = form.getByRole('button', { name: 'Do it all the same' })
  const back = order(page).getByRole('list', { name: 'What came back' })
  await expect(again.or(back)).toBeVisible()
  if (await again.isVisible()) await again.click()
  await expect(back.getByText('2 pieces came back, €8.00 let off')).toBeVisible()

  await papers(page).getByRole('button', { name: 'Credit the invoice' }).click()
  const credit = order(page).getByRole('form', { name: 'A credit note' })
  await credit.getByRole('button', { name: 'Issue the credit note' }).click()
  await expect(credit.getByText('this cannot be empty')).toBeVisible()
  await credit.getByLabel('Why').fill('Two had lifted')
  await credit.getByRole('button', { name: 'Issue the credit note' }).click()
  await expect(papers(page).getByText('−€8.00, today')).toBeVisible()

  await back.getByRole('button', { name: 'the order that makes it again' }).click()
  await expect(order(page).getByText('2 × Lamp-night ornament')).toBeVisible()
  await expect(order(page).getByText('Made again for order 1001.', { exact: true })).toBeVisible()

  await page.goto(`${studio.url}/orders/papers`)
  const issued = page.getByRole('region', { name: 'Issued' })
  await expect(issued.getByRole('listitem')).toHaveCount(4)
  const table = await page.request.get(`${studio.url}/api/figures/issued-papers.csv`)
  expect(await table.text()).toContain('credit_note,41,41,1001')
})

test('labels are laid out on the studio’s own sheets', async ({ page }) => {
  await open(page, `${studio.url}/orders/labels`)
  const count = page.getByLabel('Slipway sign')
  await count.fill('25')
  await count.press('Tab')
  const pdf = page.getByRole('link', { name: '25 labels on 2 sheets (PDF)' })
  expect((await page.request.get(studio.url + (await pdf.getAttribute('href')))).headers()['content-type']).toBe(
    'application/pdf',
  )
  await page.getByRole('button', { name: 'The sheets' }).click()
  await page.getByRole('button', { name: 'Another sheet' }).click()
  const form = page.getByRole('form', { name: 'Another sheet' })
  await form.getByLabel('Name').fill('Two across')
  await form.getByLabel('Labels across').fill('9')
  await form.getByRole('button', { name: 'Add it' }).click()
  await expect(form.getByText('9 labels side by side do not fit across the page')).toBeVisible()
  await form.getByLabel('Labels across').fill('2')
  await form.getByRole('button', { name: 'Add it' }).click()
  await choose(page.getByLabel('Sheet', { exact: true }), 'Two across')
  await expect(page.getByRole('link', { name: '25 labels on 2 sheets (PDF)' })).toBeVisible()
})

test('words are ready for a customer, in the studio’s own texts', async ({ page }) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'])
  await open(page, `${studio.url}/workshop/texts`)
  await page.getByRole('button', { name: 'It is ready' }).click()
  const text = page.getByRole('form', { name: 'It is ready' })
  await text.getByLabel('Text').fill('Ahoy {custmer}, {pieces} wait for you.')
  await text.getByRole('button', { name: 'Save' }).click()
  await expect(text.getByText(/^“{custmer}” is not filled in/)).toBeVisible()
  await text.getByLabel('Text').fill('Ahoy {customer}, {pieces} wait for you.')
  await text.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('“It is ready” is saved.')).toBeVisible()

  await page.goto(`${studio.url}/orders?tray=order:2`)
  await order(page).getByRole('button', { name: 'Words ready' }).click()
  await expect(order(page).getByText('Ahoy Single: first lamp-night, 1 × Lamp-night ornament wait for you.')).toBeVisible()
  await order(page).getByRole('button', { name: 'Copy' }).click()
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('Ahoy Single')
  const mailto = await order(page).getByRole('link', { name: 'Open in the mail program' }).getAttribute('href')
  expect(mailto).toContain('subject=Your%20order%201002%20is%20ready')
  const mail = await page.request.get(
    studio.url + (await order(page).getByRole('link', { name: 'As a file (.eml)' }).getAttribute('href')),
  )
  expect(await mail.text()).toContain('X-Unsent: 1')
})

test('a change says what it costs before it is done', async ({ page }) => {
  await open(page, `${studio.url}/orders?tray=order:3`)
  await order(page).getByRole('button', { name: 'Change' }).click()
  await order(page).getByLabel('Price each').fill('20')
  await expect(order(page).getByText('It comes to €200.00 instead of €160.00.')).toBeVisible()
})
