import { expect, test, type Page } from '@playwright/test'
import { card } from './bench'
import { startStudio } from './studio.mjs'

// The end of a short rest: heard, seen, and one tap from the next step; and the screen that stays on.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio
test.beforeEach(async () => {
  studio = await startStudio({ port: 8440, at: '2027-05-04T10:26:00Z' })
})
test.afterEach(() => studio.stop())

interface Recorded {
  sounds: { ahead: number; running: boolean }[]
  locks: string[]
}

// record notes every note that is laid and how far ahead, and every hold on the screen.
const record = (page: Page) =>
  page.addInitScript(() => {
    const recorded: Recorded = { sounds: [], locks: [] }
    Object.assign(window, { recorded })
    const start = OscillatorNode.prototype.start
    OscillatorNode.prototype.start = function (when = 0) {
      recorded.sounds.push({ ahead: when - this.context.currentTime, running: this.context.state === 'running' })
      start.call(this, when)
    }
    Object.defineProperty(navigator, 'wakeLock', {
      value: {
        request: async (kind: string) => {
          recorded.locks.push(kind)
          const hold = { released: false, release: async () => { hold.released = true; recorded.locks.push('released') } }
          return hold
        },
      },
    })
  })
const recorded = (page: Page) => page.evaluate(() => (window as unknown as { recorded: Recorded }).recorded)
const ending = (page: Page) => page.getByRole('region', { name: /^A rest is over/ })

test('the end of a short rest is laid ahead as sound, seen on every page, and leads to the next step', async ({ page }) => {
  studio.setClock('2027-05-04T10:50:40Z')
  await record(page)
  await page.goto(`${studio.url}/orders`)
  await page.getByRole('heading', { name: 'Orders' }).click() // a tap lets the page make sounds
  await expect.poll(async () => (await recorded(page)).sounds.length).toBeGreaterThanOrEqual(9)
  const { sounds } = await recorded(page)
  expect(sounds.every((s) => s.running)).toBe(true)
  // It is laid into the sound card's time well before the end, so that a held-back timer does not matter.
  expect(Math.min(...sounds.map((s) => s.ahead))).toBeGreaterThan(3)
  expect(Math.min(...sounds.map((s) => s.ahead))).toBeLessThan(21)
  await expect(ending(page)).toHaveCount(0)

  studio.setClock('2027-05-04T10:51:01Z')
  await page.getByRole('link', { name: 'Plan' }).first().click() // an answer tells the page what time it is
  await page.getByRole('link', { name: 'Orders' }).first().click()
  await expect(ending(page)).toContainText('Ready since 10:51')
  await expect(ending(page)).toContainText('6 × Crew ornament')
  await expect(page).toHaveTitle(/^\(1 ready\) Orders/)
  await page.getByRole('link', { name: 'Plan' }).first().click()
  await expect(ending(page)).toBeVisible()
  await ending(page).getByRole('button', { name: /^Take up/ }).click()
  await expect(ending(page)).toHaveCount(0)
  await page.getByRole('link', { name: 'Today' }).first().click()
  await expect(card(page, 'Lay')).toBeVisible()
  await expect(page).toHaveTitle(/^Today/)
})

test('with the sound off nothing is laid, and the end is still seen', async ({ page }) => {
  studio.setClock('2027-05-04T10:50:55Z')
  await record(page)
  await page.goto(`${studio.url}/workshop`)
  await page.getByLabel('A sound at the end of short rests').uncheck()
  await page.goto(studio.url)
  await page.getByRole('heading', { name: 'Resting' }).click()
  await expect(ending(page)).toContainText('Ready since 10:51')
  expect((await recorded(page)).sounds).toEqual([])
  await ending(page).getByRole('button', { name: 'Later' }).click()
  await expect(ending(page)).toHaveCount(0)
})

test('the screen stays on while a timer runs, and no longer', async ({ page }) => {
  studio.setClock('2027-05-04T12:30:00Z') // no short rest is under way
  await record(page)
  await page.goto(studio.url)
  await expect.poll(async () => (await recorded(page)).locks).toEqual(['screen'])
  await card(page, 'Clear the paper, first round').getByRole('button', { name: 'Put down' }).click()
  await expect.poll(async () => (await recorded(page)).locks).toEqual(['screen', 'released'])
  await card(page, 'Clear the paper, first round').getByRole('button', { name: 'Go on' }).click()
  await expect.poll(async () => (await recorded(page)).locks).toEqual(['screen', 'released', 'screen'])
})
