import { expect, test, type Page } from '@playwright/test'
import { startStudio } from './studio.mjs'

// Every page on a phone and on a tablet held at the bench.

let studio: Awaited<ReturnType<typeof startStudio>>
test.beforeAll(async () => {
  studio = await startStudio({ port: 8437, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

const pages = [
  '/',
  '/plan',
  '/orders',
  '/orders/customers',
  '/orders/owed',
  '/orders/papers',
  '/workshop/texts',
  '/orders/labels',
  '/orders/quotes',
  '/workshop/terms',
  '/products',
  '/products/new',
  '/products/library',
  '/products/2',
  '/products/17',
  '/products/1/costs?beside=12',
  '/products/prices',
  '/prints',
  '/prints/sheets',
  '/prints/design/1',
  '/prints/proof/4',
  '/stores',
  '/stores?view=shelf',
  '/notebook',
  '/notebook/batches/new',
  '/workshop',
  '/workshop/access',
  '/workshop/trail',
  '/workshop/health',
  '/nowhere',
]
const trays = ['/?tray=lot:3', '/?tray=lot:12', '/orders?tray=order:3', '/orders?tray=new-order', '/orders?tray=customer:1', '/orders?tray=quote:2', '/plan?tray=new-batch', '/plan?tray=what-if', '/plan?tray=suggestions', '/plan?tray=batch:3', '/prints?tray=artwork:2', '/stores?tray=material:5', '/stores?tray=new-material', '/stores?tray=receipt', '/stores?view=shelf&tray=shelf:10', '/stores?tray=files', '/products/prices?tray=outlet:1']
const widths = [
  { name: 'phone', viewport: { width: 390, height: 844 } },
  { name: 'tablet', viewport: { width: 820, height: 1180 } },
]

const settled = async (page: Page, path: string) => {
  await page.goto(studio.url + path)
  await expect(page.locator('main h1, main h2, .tray h1, .tray label').first()).toBeAttached()
  await expect(page.locator('[aria-busy=true]'), path).toHaveCount(0)
}

// small finds what a finger could miss: controls under 48 px in a direction, apart from links within a sentence.
const small = (page: Page) =>
  page.evaluate(() => {
    const found: string[] = []
    const areas = document.querySelectorAll('main, .tray, .bottom, .end')
    for (const area of areas)
      for (const e of area.querySelectorAll<HTMLElement>('button, a[href], select, input, textarea, summary, label:has(input[type=checkbox])')) {
        if (e.matches('input[type=checkbox], input[type=radio]') && e.closest('label')) continue
        if (e.closest('.strip, .plan, .days') || !e.checkVisibility({ visibilityProperty: true })) continue
        const r = (e.closest('.el-select__wrapper, .el-input__wrapper') ?? e).getBoundingClientRect()
        const inText = getComputedStyle(e).display === 'inline'
        if (!inText && (r.height < 47.5 || r.width < 47.5)) found.push(`${e.tagName} "${e.textContent?.trim().slice(0, 40)}" ${Math.round(r.width)}×${Math.round(r.height)}`)
      }
    return [...new Set(found)]
  })

// wide finds what sticks out of the page to the side, apart from what scrolls in a box of its own.
const wide = (page: Page) =>
  page.evaluate(() => {
    const limit = document.documentElement.clientWidth + 1
    if (document.documentElement.scrollWidth <= limit) return []
    return [...document.querySelectorAll<HTMLElement>('main *, .tray *, header *')]
      .filter((e) => e.getBoundingClientRect().right > limit)
      .map((e) => `${e.tagName}.${e.className} ${e.textContent?.trim().slice(0, 30)}`)
      .slice(0, 5)
  })

for (const { name, viewport } of widths)
  test.describe(name, () => {
    test.use({ viewport, hasTouch: true, isMobile: true })
    test('every page and tray fits', async ({ page }) => {
      for (const path of [...pages, ...trays]) {
        await settled(page, path)
        expect(await wide(page), path).toEqual([])
      }
    })
    test('the bench has targets for gluey fingers', async ({ page }) => {
      for (const path of ['/', '/?tray=lot:3', '/?tray=lot:12']) {
        await settled(page, path)
        expect(await small(page), path).toEqual([])
      }
    })

    test('what is done next lies under the thumb, with undo', async ({ page }) => {
      await settled(page, '/')
      const done = page.getByRole('button', { name: /^Done/ }).first()
      const box = (await done.boundingBox())!
      expect(box.height).toBeGreaterThanOrEqual(48)
      expect(box.y + box.height).toBeLessThanOrEqual(viewport.height - 40)
      if (name === 'phone') expect(box.y).toBeGreaterThan(viewport.height / 2)
    })
  })
