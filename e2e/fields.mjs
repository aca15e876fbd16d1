import { expect } from '@playwright/test'

// choose takes one of the things that a field offers, by the name it goes by, and sees that it is taken.
export async function choose(field, name) {
  await chosen(field).click()
  await field.page().getByRole('option', { name, exact: true }).click()
  await expect(chosen(field)).toContainText(name)
}

// chosen is what a field says is chosen.
export const chosen = (field) => field.locator('xpath=ancestor::*[contains(@class, "el-select__wrapper")]')

// setDay writes a day such as 2027-05-14 into a field, in the demo's order of dates.
export async function setDay(field, date) {
  await field.fill(date.split('-').reverse().join('/'))
  await field.press('Tab')
}

// setTime writes a time of day such as 09:30 into a field.
export async function setTime(field, time) {
  await field.fill(time)
  await field.press('Tab')
}
