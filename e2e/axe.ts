import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'
import { open } from './device'

// A state of a page: where it is, what it shows, and how it is got into.
export interface State {
  path: string
  shows: string | RegExp
  open?: (page: Page) => Promise<unknown>
}

// check opens a state and finds neither an accessibility violation nor a script error.
export async function check(page: Page, url: string, state: State) {
  const troubles: string[] = []
  page.on('pageerror', (e) => troubles.push(String(e)))
  page.on('console', (m) => m.type() === 'error' && !/status of (4|503)/.test(m.text()) && troubles.push(m.text()))
  await open(page, url + state.path)
  await state.open?.(page)
  await expect(page.getByText(state.shows).first()).toBeVisible()
  await expect(page.locator('.el-overlay.dialog-fade-enter-active, .dialog-fade-enter-active')).toHaveCount(0)
  // No page has frames, so axe may run in the page itself; only violations are asked for in full.
  const found = await new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode(true).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']).analyze()
  expect(found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)).toEqual([])
  expect(troubles).toEqual([])
}
