import { expect, type Locator, type Page } from '@playwright/test'
import { card, ready } from './bench'
import { open, test } from './device'
import { chosen } from './fields.mjs'
import { startStudio } from './studio.mjs'

// The whole journey by the keyboard alone, and the pages as people need them:
// magnified, widely spaced, still, and in the system's own colours.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio
test.beforeAll(async () => {
  studio = await startStudio({ port: 8439, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

const pages = ['/', '/plan', '/orders', '/orders/customers', '/orders/customers?tray=customer:1', '/orders/owed', '/orders/papers', '/workshop/texts', '/orders/labels', '/orders/quotes?tray=quote:2', '/workshop/terms', '/products', '/products/new', '/products/library', '/products/17', '/products/17/costs', '/products/prices', '/prints', '/prints?tray=artwork:1', '/prints/sheets', '/prints/design/1', '/prints/proof/4', '/stores', '/notebook', '/notebook/batches/new', '/workshop', '/workshop/access', '/workshop/trail', '/workshop/health', '/orders?tray=new-order', '/plan?tray=lot:4', '/plan?tray=what-if', '/plan?tray=suggestions', '/stores?tray=receipt', '/stores?tray=material:5', '/stores?view=shelf&tray=shelf:10', '/stores?tray=files']

// look describes what has the focus: whether it can be seen, and seen to be focused, and whether
// it is the one looked for. What seems not to be seen is looked at again when the list that the
// stop before had open has closed.
const look = async (wanted: Element | null) => {
  const seen = () => {
    const e = document.activeElement as HTMLElement | null
    if (!e || e === document.body) return null
    // what is chosen from is seen as a box, of which the part with the focus is little
    const seen = e.closest('.el-select__wrapper, .el-input__wrapper, .el-checkbox__input, .el-radio__input') ?? e
    const r = seen.getBoundingClientRect()
    const style = getComputedStyle(seen)
    const hit = document.elementFromPoint(Math.min(innerWidth - 1, Math.max(0, r.x + r.width / 2)), Math.min(innerHeight - 1, Math.max(0, r.y + r.height / 2)))
    return {
      what: `${e.tagName} ${e.getAttribute('aria-label') ?? e.textContent?.trim().slice(0, 40)}`,
      inView: r.width > 0 && r.height > 0 && r.bottom > 0 && r.top < innerHeight && r.right > 0 && r.left < innerWidth,
      uncovered: hit !== null && (seen.contains(hit) || hit.contains(seen) || hit.closest('label')?.contains(e) === true),
      outlined: (style.outlineStyle !== 'none' && parseFloat(style.outlineWidth) >= 2) || style.boxShadow !== 'none' || e.id === 'page' || e.matches('.tray'),
    }
  }
  let at = seen()
  if (at && !(at.inView && at.uncovered && at.outlined)) {
    const frame = () => new Promise(requestAnimationFrame)
    await frame()
    await frame()
    await Promise.allSettled(document.getAnimations().filter((a) => a.effect?.getComputedTiming().endTime !== Infinity).map((a) => a.finished))
    at = seen()
  }
  return { at, found: wanted !== null && wanted === document.activeElement }
}

// tabTo presses Tab until a control has the focus; each stop on the way must be seen.
async function tabTo(page: Page, to: Locator, key = 'Tab') {
  await expect(to).toBeVisible()
  if ((await to.evaluate(look)).found) return
  for (let i = 0; i < 250; i++) {
    await page.keyboard.press(key)
    const { at, found } = await to.evaluate(look)
    if (at) expect(at, at.what).toMatchObject({ inView: true, outlined: true })
    if (found) return
  }
  throw new Error('never reached by Tab')
}
async function press(page: Page, to: Locator, key = 'Enter') {
  await tabTo(page, to)
  await page.keyboard.press(key)
}
const type = async (page: Page, into: Locator, text: string) => {
  await tabTo(page, into)
  await page.keyboard.press('Control+A')
  await page.keyboard.type(text)
}

test('an order goes from its promise to the shelf by the keyboard alone', async ({ page }) => {
  await open(page, studio.url)
  // what can be ordered comes late: nothing typed into its list may be lost
  let come = () => {}
  const customerTyped = new Promise<void>((done) => (come = done))
  await page.route('**/api/products', async (route) => {
    await customerTyped
    await route.continue()
  })
  await page.keyboard.press('n')
  const order = page.getByRole('complementary', { name: 'New order' })
  await expect(order).toBeFocused()
  await type(page, order.getByLabel('Customer'), 'Bittern Bell-ringers')
  await expect(order.getByLabel('At the prices of')).toBeVisible()
  await expect(order.getByLabel('Product')).toHaveCount(0)
  come()
  await tabTo(page, order.getByLabel('Product'))
  await page.keyboard.type('Galley')
  await expect(page.getByRole('option')).toHaveText(['Galley jar'])
  await page.keyboard.press('Enter')
  await expect(chosen(order.getByLabel('Product'))).toHaveText('Galley jar')
  await type(page, order.getByLabel(/^Lettering/), 'Treble\nTenor')
  await expect(order.locator('.promise[aria-busy="false"]')).toBeVisible()
  await press(page, order.getByRole('button', { name: /^Promise/ }))
  await expect(page.getByText(/Order \d+ taken/)).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary')).toHaveCount(0)

  await page.keyboard.press('2')
  await expect(page).toHaveURL(/\/plan/)
  await page.keyboard.press('n')
  const batch = page.getByRole('complementary', { name: 'New batch' })
  await expect(batch).toBeFocused()
  await tabTo(page, batch.getByLabel('Of', { exact: true }))
  await page.keyboard.type('Galley')
  await press(page, batch.getByRole('button', { name: /^Start/ }))
  await expect(page.getByText(/Batch \d+/).first()).toBeVisible()

  await page.keyboard.press('Escape')
  await page.keyboard.press('1')
  await expect(page).toHaveURL(`${studio.url}/`)
  await page.keyboard.press('d')
  await expect(card(page, 'Clear the paper, first round')).toHaveCount(0)
  await press(page, page.getByRole('button', { name: 'Undo' }))
  await expect(card(page, 'Clear the paper, first round')).toBeVisible()
  await page.keyboard.press('d')
  await expect(card(page, 'Clear the paper, first round')).toHaveCount(0)
  await press(page, ready(page, 'Look and decide', '4 × Regatta tumbler').getByRole('button', { name: /^Take up/ }))
  await expect(card(page, 'Look and decide')).toBeVisible()
  await press(page, card(page, 'Look and decide').getByRole('checkbox').first(), ' ')
  await expect(card(page, 'Look and decide').getByRole('checkbox').first()).toBeChecked()
  await press(page, card(page, 'Look and decide').getByRole('button', { name: 'Put down', exact: true }))
  await expect(card(page, 'Look and decide')).toContainText('put down')

  await page.keyboard.press('f')
  await page.keyboard.type('bittern')
  await press(page, page.getByRole('button', { name: /Bittern Bell-ringers, order/ }))
  const found = page.getByRole('complementary', { name: 'Order' })
  await expect(found.getByRole('heading', { name: 'Bittern Bell-ringers' })).toBeVisible()
  await press(page, found.getByRole('button', { name: 'Change' }))
  await type(page, found.getByLabel('Note'), 'Ring twice')
  await press(page, found.getByRole('button', { name: 'Save' }))
  await expect(found.getByText('Ring twice')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary')).toHaveCount(0)
})

test('with single keys off everything is still reached by Tab and Enter', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('letters', 'false'))
  await open(page, studio.url)
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'Skip to the page' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.locator('#page')).toBeFocused()
  await open(page, studio.url)
  await press(page, page.getByRole('navigation', { name: 'Sections', exact: true }).getByRole('link', { name: 'Orders' }))
  await expect(page).toHaveURL(/\/orders/)
  await press(page, page.getByRole('button', { name: 'New order' }))
  await expect(page.getByRole('complementary', { name: 'New order' })).toBeFocused()
  await press(page, page.getByRole('button', { name: 'Close', exact: true }))
  await expect(page.getByRole('complementary')).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'New order' })).toBeFocused()
})

test('a list is there at once: nothing in it moves from under the pointer', async ({ page }) => {
  await open(page, `${studio.url}/orders?tray=new-order`)
  const field = page.getByLabel('Product')
  await expect(field).toBeVisible()
  const moving = await chosen(field).evaluate(async (box: HTMLElement) => {
    box.click()
    const frame = () => new Promise(requestAnimationFrame)
    while (!document.querySelector('[role="option"]')) await frame()
    await frame()
    return document.getAnimations().filter((a) => ((a.effect as KeyframeEffect).target as Element | null)?.closest('.el-popper')).length
  })
  expect(moving).toBe(0)
  await expect(page.getByRole('option', { name: 'Slate coaster' })).toBeVisible()
})

for (const path of pages)
  test(`on ${path} the focus goes through in order, always in sight and never under something`, async ({ page }) => {
    await open(page, studio.url + path)
    const stops: string[] = []
    for (let i = 0; i < 70; i++) {
      await page.keyboard.press('Tab')
      const { at } = await page.evaluate(look, null)
      if (!at) break
      expect(at, at.what).toMatchObject({ inView: true, uncovered: true, outlined: true })
      stops.push(at.what)
    }
    expect(stops.length).toBeGreaterThan(2)
    const skipping = await page.locator('[tabindex]:not([tabindex="0"]):not([tabindex="-1"])').count()
    expect(skipping, 'no order of tabs but that of the page').toBe(0)
  })

// clipped finds texts that are cut off by their own box, apart from those that say so with an ellipsis.
const clipped = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('main *, .tray *, header *')]
      .filter((e) => {
        const s = getComputedStyle(e)
        if (e.children.length > 0 || !e.textContent?.trim() || s.textOverflow === 'ellipsis' || e.closest('.spoken, svg, select')) return false
        return s.overflow !== 'visible' && (e.scrollHeight > e.clientHeight + 2 || e.scrollWidth > e.clientWidth + 2)
      })
      .map((e) => `${e.tagName}.${e.className} ${e.textContent?.trim().slice(0, 30)}`),
  )
const sideways = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)

test('magnified to twice the size nothing is cut off or lost to the side', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 640, height: 400 }, deviceScaleFactor: 2 })
  const page = await context.newPage()
  for (const path of pages) {
    await open(page, studio.url + path)
    expect(await sideways(page), path).toBeLessThanOrEqual(0)
    expect(await clipped(page), path).toEqual([])
  }
  await context.close()
})

test('with widely spaced text nothing is cut off or lost to the side', async ({ page }) => {
  for (const path of pages) {
    await open(page, studio.url + path)
    // the values of WCAG 1.4.12; the content policy allows no style element, so they are set through the object model
    await page.evaluate(() => {
      const sheet = new CSSStyleSheet()
      sheet.replaceSync('* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important } p { margin-bottom: 2em !important }')
      document.adoptedStyleSheets = [sheet]
    })
    expect(await sideways(page), path).toBeLessThanOrEqual(0)
    expect(await clipped(page), path).toEqual([])
  }
})

test('who asks for little motion gets none', async ({ browser }) => {
  const context = await browser.newContext({ reducedMotion: 'reduce' })
  const page = await context.newPage()
  await open(page, studio.url)
  await page.keyboard.press('h')
  await expect(page.getByRole('dialog')).toBeVisible()
  expect(await page.evaluate(() => document.getAnimations().filter((a) => a.playState === 'running').length)).toBe(0)
  await context.close()
})

test('in the system’s colours the notation is still drawn, and one section is marked', async ({ browser }) => {
  const context = await browser.newContext({ forcedColors: 'active' })
  const page = await context.newPage()
  await open(page, studio.url)
  const colourOf = (selector: string, property: string) => page.locator(selector).first().evaluate((e, p) => getComputedStyle(e).getPropertyValue(p), property)
  expect(await colourOf('.hands.planned', 'background-color')).toBe('rgb(169, 72, 43)')
  expect(await colourOf('.row .ring', 'border-top-color')).toBe('rgb(47, 111, 106)')
  expect(await colourOf('.row .hatch', 'background-image')).toContain('gradient')
  const marked = await page.locator('.sections a').evaluateAll((all) => all.map((e) => getComputedStyle(e).borderBottomColor))
  expect(new Set(marked).size).toBe(2)
  expect(marked.filter((c) => c === marked[0])).toHaveLength(1)
  await context.close()
})

test('timers speak when spoken to: nothing is announced each second', async ({ page }) => {
  await open(page, studio.url)
  await expect(page.getByRole('timer').first()).toHaveAccessibleName(/^worked \d+ /)
  const live = await page.locator('[aria-live], [role=status], [role=alert], [role=log]').evaluateAll((all) => all.filter((e) => e.querySelector('[role=timer]')).length)
  expect(live).toBe(0)
})
