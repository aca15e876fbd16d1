import { expect, test } from '@playwright/test'
import { check } from './axe'
import { open } from './device'
import { startStudio } from './studio.mjs'

let studio: Awaited<ReturnType<typeof startStudio>>
test.beforeAll(async () => {
  studio = await startStudio({ port: 8476, at: '2027-05-04T10:26:00Z', backups: true })
})
test.afterAll(async () => await studio.stop())

test('whether all is well is said in plain words, and a backup is made, proven and taken away', async ({ page }) => {
  await open(page, `${studio.url}/workshop`)
  await page.getByRole('link', { name: 'Not all is well' }).click()
  await expect(page.getByText(/iB of .* are left/)).toBeVisible()
  await expect(page.getByText('No backup was made yet.')).toBeVisible()
  const kept = page.getByRole('listitem').filter({ hasText: 'Take it away' })
  await page.getByRole('button', { name: 'Back up now' }).click()
  await expect(page.getByRole('status').filter({ hasText: /Writing|Reading it back|Putting it/ })).toBeVisible()
  await expect(kept.filter({ hasText: /holds/ })).toHaveCount(1, { timeout: 60_000 })
  await check(page, studio.url, { path: '/workshop/health', shows: /The last backup holds/ })
  const download = page.waitForEvent('download')
  await kept.first().getByRole('link', { name: 'Take it away' }).click()
  expect((await download).suggestedFilename()).toMatch(/^tidykiln-\d{8}T\d{6}Z\.tar\.gz$/)
  const all = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Take everything out' }).click()
  expect((await all).suggestedFilename()).toBe('tidykiln-everything.zip')
})

test('a change is read with the thing itself and among all, with who made it and from which to which', async ({ page }) => {
  await open(page, `${studio.url}/orders?tray=order:4`)
  const order = page.getByRole('complementary', { name: 'Order' })
  await order.getByRole('button', { name: 'Change', exact: true }).click()
  await order.getByLabel('Note').fill('Ring the bell')
  await order.getByRole('button', { name: /^Save/ }).click()
  await expect(order.getByText('Ring the bell')).toBeVisible()
  await order.getByRole('button', { name: 'Who did what' }).click()
  await expect(order.getByText('note – → Ring the bell')).toBeVisible()
  await open(page, `${studio.url}/workshop/trail`)
  await expect(page.getByText('note – → Ring the bell')).toBeVisible()
  await page.getByRole('button', { name: 'Look for something' }).click()
  await page.getByLabel('By whom, or at which device').fill('nobody of this name')
  await expect(page.getByText('Nothing of that was written.')).toBeVisible()
  await page.getByLabel('By whom, or at which device').fill('isol')
  await expect(page.getByText('note – → Ring the bell')).toBeVisible()
  const table = page.waitForEvent('download')
  await page.getByRole('link', { name: 'As a table' }).click()
  expect((await table).suggestedFilename()).toBe('who-did-what.csv')
})
