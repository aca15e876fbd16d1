import { expect, type Page } from '@playwright/test'

// What a person does at the bench, on the Today page.

export const card = (page: Page, step: string) => page.getByRole('article', { name: `In hand: ${step}` })

const region = (page: Page, name: string) => page.getByRole('region', { name })

// ready is what waits for hands: a lot by itself, or the sitting that it is in.
export const ready = (page: Page, step: string, pieces: string) =>
  region(page, 'Ready for hands').locator('.ready > li').filter({ hasText: step }).filter({ hasText: pieces })

export const resting = (page: Page, pieces: string) => region(page, 'Resting').getByRole('listitem').filter({ hasText: pieces })

// takeUp takes up one lot; the others of its sitting are left out.
export async function takeUp(page: Page, step: string, pieces: string) {
  const row = ready(page, step, pieces)
  await expect(row).toBeVisible()
  for (const lot of await row.getByRole('listitem').all()) {
    const named = ((await lot.textContent()) ?? '').includes(pieces) && ((await lot.textContent()) ?? '').includes(step)
    await lot.getByRole('checkbox').setChecked(named)
  }
  await row.getByRole('button', { name: /^Take up/ }).click()
  await expect(card(page, step)).toBeVisible()
}

export async function done(page: Page, step: string) {
  await card(page, step).getByRole('button', { name: /^Done/ }).click()
  await expect(card(page, step)).toHaveCount(0)
}

// promise takes the order once the page has said what that does to what is promised.
export async function promise(page: Page) {
  await expect(page.locator('.promise[aria-busy="false"]')).toBeVisible()
  await page.getByRole('button', { name: /^Promise/ }).click()
}

// spoil names one piece of the step in hand as lost.
export async function spoil(page: Page, step: string, piece: string, reason: string) {
  await card(page, step).getByRole('button', { name: /spoiled$/ }).click()
  await card(page, step).getByRole('button', { name: piece }).click()
  const why = card(page, step).getByLabel(`Why is ${piece} spoiled?`)
  await why.fill(reason)
  await why.press('Tab') // the reasons offered lie over what is below them until the field is left
}
