import { expect, test } from '@playwright/test'
import { startStudio } from './studio.mjs'

// The demo's own clock: moved from the top line, with what was put down on the way said.
test('the demo is moved on to what is ready, to closing and to the next morning', async ({ page }) => {
  const studio = await startStudio({ port: 8447, at: '2027-05-04T10:26:00Z', own: true })
  try {
    await page.goto(studio.url)
    const clock = page.getByRole('button', { name: /^The demo’s own clock, Tue 4 10:/ })
    const move = async (to: string) => {
      await page.getByRole('button', { name: /^The demo’s own clock/ }).click()
      await page.getByRole('menuitem', { name: to }).click()
    }
    await expect(clock).toBeVisible()
    await expect(page.getByText('ready 10:51')).toBeVisible()
    await move('To the next thing that is ready')
    await expect(page.getByText('It is 10:51, Tue 4.')).toBeVisible()
    await expect(page.getByText('Ready since 10:51: Lay')).toBeVisible()
    await move('To the end of the day')
    await expect(page.getByText(/^It is 15:00, Tue 4\. Clear the paper, first round, 8 × Crew ornament, put down at 15:00\.$/)).toBeVisible()
    await move('To the end of the day')
    await expect(page.getByText('Hands are over for today already.')).toBeVisible()
    await move('To the next working morning')
    await expect(page.getByText('It is 09:00, Wed 5.')).toBeVisible()
    await expect(page.getByText('Hands are over')).toHaveCount(0)
    // by the keyboard alone
    await page.getByRole('button', { name: /^The demo’s own clock, Wed 5 09:00/ }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('menuitem', { name: 'A quarter of an hour on' })).toBeFocused()
    await page.keyboard.press('Enter')
    await expect(page.getByText(/^It is 09:1[56], Wed 5\.$/)).toBeVisible()
    await studio.end()
    await studio.start()
    await page.reload()
    await expect(page.getByRole('button', { name: /^The demo’s own clock, Wed 5 09:1/ })).toBeVisible()
  } finally {
    await studio.stop()
  }
})

test('outside the demo no clock is shown', async ({ page }) => {
  const studio = await startStudio({ port: 8447, at: '2027-05-04T10:26:00Z', empty: true })
  try {
    await page.goto(studio.url)
    await expect(page.getByRole('heading', { name: 'Your hands are free' })).toBeVisible()
    await expect(page.getByRole('button', { name: /demo/ })).toHaveCount(0)
  } finally {
    await studio.stop()
  }
})
