import { expect, test, type Page } from '@playwright/test'
import { open } from './device'
import { startStudio } from './studio.mjs'

// What a page weighs and how still it stands while it loads.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio
const at = '2027-05-04T10:26:00Z'
test.beforeAll(async () => {
  studio = await startStudio({ port: 8442, at })
})
test.afterAll(() => studio.stop())

// What a page may weigh before it can be acted on, by whether it is of the bench's day; charts are drawn after that.
const most = (path: string) => (/^\/(plan|orders)?(\?|$)/.test(path) ? 250_000 : 300_000)

// load opens a page afresh and gives what came over the line, compressed,
// what was asked for beside its frame and not taken, and what it asked for first.
// Its minute does not pass meanwhile: what happens in the studio may well move it.
async function load(page: Page, path: string) {
  studio.setClock(at)
  await open(page, studio.url + path)
  // what was asked for is known when it has come, and the ribbon may come after the page
  await page.waitForFunction(() => performance.getEntriesByType('resource').some((r) => r.name.includes('/api/ribbon')))
  return page.evaluate(() => {
    const asked = (performance.getEntriesByType('resource') as PerformanceResourceTiming[]).sort((a, b) => a.startTime - b.startTime)
    const files = asked.filter((r) => /\.(js|css)$/.test(new URL(r.name).pathname) && !/\/(ReadChart|ChartTable)-/.test(r.name))
    return {
      names: files.map((f) => new URL(f.name).pathname),
      bytes: files.reduce((sum, f) => sum + f.encodedBodySize, 0),
      early: Object.keys(window.early ?? {}),
      first: asked.filter((r) => r.name.includes('/api/')).slice(0, 8).map((r) => new URL(r.name).pathname),
    }
  })
}
interface Shift extends PerformanceEntry {
  value: number
  hadRecentInput: boolean
  sources: { node?: Node; previousRect: DOMRectReadOnly; currentRect: DOMRectReadOnly }[]
}
const watchShifts = (page: Page) =>
  page.addInitScript(() => {
    let by = 0
    const what: string[] = []
    const place = (r: DOMRectReadOnly) => [r.x, r.y, r.width, r.height].map(Math.round).join(' ')
    const add = (seen: PerformanceEntryList) => {
      for (const e of seen as Shift[]) {
        if (e.hadRecentInput) continue
        by += e.value
        what.push(...e.sources.map((s) => `${e.value.toFixed(4)} “${s.node?.textContent?.trim().slice(0, 30)}” from ${place(s.previousRect)} to ${place(s.currentRect)}`))
      }
    }
    const watch = new PerformanceObserver((list) => add(list.getEntries()))
    watch.observe({ type: 'layout-shift', buffered: true })
    Object.assign(window, { moved: () => (add(watch.takeRecords()), { by, what }) })
  })

// moved is by how much a page has moved so far, and what did, when it has been drawn with all that has come.
const moved = (page: Page) =>
  page.evaluate(async () => {
    for (let i = 0; i < 3; i++) await new Promise(requestAnimationFrame)
    return (window as unknown as { moved: () => { by: number; what: string[] } }).moved()
  })

async function standsStill(page: Page, path: string) {
  const { by, what } = await moved(page)
  expect(by, `${path} moves: ${what.join('; ')}`).toBeLessThanOrEqual(0.02)
}

// answerBackwards lets what is asked for first come last, as a bad line may.
const answerBackwards = async (page: Page) => {
  let asked = 0
  await page.route(/\/api\/(?!changes)/, async (route) => {
    await new Promise((later) => setTimeout(later, Math.max(0, 500 - 100 * asked++)))
    await route.continue()
  })
}

// earlyFirst lets the frame begin when what is asked for beside it has been: on a machine
// with much to do it may be here before, and then asks by itself, which is a test of its own.
const earlyFirst = async (page: Page) => {
  const asked = page.waitForEvent('requestfinished', (r) => /\/early-/.test(r.url()))
  await page.route(/\/assets\/index-[^/]*\.js$/, (route) => asked.then(() => route.continue()))
}

const pages = ['/', '/plan', '/orders', '/orders/customers', '/orders/owed', '/orders/papers', '/workshop/texts', '/orders/labels', '/orders/quotes', '/workshop/terms', '/products', '/products/17', '/products/new', '/products/library', '/products/1/costs', '/products/prices', '/prints', '/prints/sheets', '/prints/design/1', '/prints/proof/4', '/stores', '/stores?view=shelf', '/stores?view=bought', '/notebook', '/notebook/batches/new', '/workshop', '/workshop/access', '/workshop/trail', '/workshop/health', '/orders?tray=order:4', '/stores?tray=material:5', '/stores?view=shelf&tray=shelf:10', '/plan?tray=new-batch']

for (const viewport of [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
] as const)
  test(`script and style stay light, nothing jumps while it loads, and what was asked for beside the frame is taken, at ${viewport.width} px`, async ({ browser }) => {
    for (const path of pages) {
      const context = await browser.newContext({ viewport })
      const page = await context.newPage()
      await watchShifts(page)
      await answerBackwards(page)
      await earlyFirst(page)
      const { bytes, early, first } = await load(page, path)
      expect(bytes, path).toBeGreaterThan(50_000)
      expect(bytes, path).toBeLessThanOrEqual(most(path))
      await standsStill(page, path)
      expect(early, `${path}: asked for and not taken`).toEqual([])
      expect(first, path).toContain('/api/ribbon')
      await context.close()
    }
  })

test('a font that comes late moves nothing', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  await watchShifts(page)
  let come = () => {}
  const read = new Promise<void>((resolve) => (come = resolve))
  await page.route(/\.woff2$/, (route) => read.then(() => route.continue()))
  await page.goto(`${studio.url}/products/17`, { waitUntil: 'commit' })
  await expect(page.getByRole('button', { name: 'Make up a batch' })).toBeVisible()
  come()
  await page.waitForLoadState('load') // which waits for them
  await standsStill(page, '/products/17')
  await page.context().close()
})

test('what was asked for beside a frame that was there first is not taken for news later', async ({ page }) => {
  let come = () => {}
  const left = new Promise<void>((resolve) => (come = resolve))
  await page.route(/\/early-.*\.js/, (route) => left.then(() => route.continue()))
  await page.goto(studio.url, { waitUntil: 'commit' })
  await expect(page.getByRole('heading', { name: 'Today', level: 1 })).toBeVisible()
  const here = page.waitForEvent('requestfinished', (r) => /\/early-/.test(r.url()))
  come()
  const script = (await here).url()
  await page.evaluate((src) => new Promise((resolve) => Object.assign(document.head.appendChild(document.createElement('script')), { src, onload: resolve })), script)
  expect(await page.evaluate(() => Object.keys(window.early ?? {}))).toEqual([])
})

test('a list to pick from that could not be loaded comes when it can be', async ({ page }) => {
  let refused = 0
  await page.route(/\/lists-.*\.js/, (route) => (refused++ ? route.continue() : route.abort()))
  await page.goto(studio.url + '/notebook')
  await expect(page.getByText('on any product').first()).toBeVisible()
  await page.getByRole('combobox', { name: 'On which product' }).click()
  await expect(page.getByRole('option', { name: 'Crew ornament' })).toBeVisible()
  expect(refused).toBeGreaterThan(1)
})

test('a section is loaded when it is opened, and not before', async ({ page }) => {
  const { names } = await load(page, '/')
  expect(names.filter((n) => /PlanPage|OrdersPage|ProductPage-|ChooserPage|WorkshopPage|GuidePage|NewOrderTray/.test(n))).toEqual([])
  const asked = page.waitForResponse(/OrdersPage.*\.js/)
  await page.getByRole('link', { name: 'Orders' }).first().click()
  expect((await asked).headers()['content-encoding']).toBe('gzip')
})

test('a section that is left before it has come does not name the tab', async ({ page }) => {
  await page.goto(studio.url + '/orders')
  let come = () => {}
  const left = new Promise<void>((resolve) => (come = resolve))
  await page.route(/PlanPage.*\.js/, (route) => left.then(() => route.continue()))
  const asked = page.waitForRequest(/PlanPage.*\.js/)
  await page.getByRole('link', { name: 'Plan' }).first().click()
  const script = (await asked).url()
  await page.getByRole('link', { name: 'Orders' }).first().click()
  come()
  await page.evaluate((script) => import(script), script) // comes when it has come for the page
  await expect(page.getByRole('heading', { name: 'Orders', level: 1 })).toBeVisible()
  await expect(page).toHaveTitle(/^Orders/)
})
