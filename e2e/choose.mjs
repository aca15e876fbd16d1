// choose takes one of the things that a field offers, by the name it goes by.
export async function choose(field, name) {
  await field.locator('xpath=ancestor::*[contains(@class, "el-select__wrapper")]').click()
  await field.page().getByRole('option', { name, exact: true }).click()
}

// chosen is what a field says is chosen.
export const chosen = (field) => field.locator('xpath=ancestor::*[contains(@class, "el-select__wrapper")]')
