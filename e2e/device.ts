import { expect, test as base, type BrowserContext, type Page, type Request } from '@playwright/test'

// One browser for all tests of a worker, as a device in use is: it has loaded
// the application before. Each test begins with nothing kept in it.
export const test = base.extend<object, { device: BrowserContext }>({
  device: [
    async ({ browser }, use) => {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
      await use(context)
      await context.close()
    },
    { scope: 'worker' },
  ],
  page: async ({ device }, use) => {
    await device.setStorageState({ cookies: [], origins: [] })
    const page = await device.newPage()
    await use(page)
    await page.close()
  },
})

const underWay = new WeakMap<Page, Set<Request>>()

// open opens an address and waits until the page has what it asked for and has drawn it.
export async function open(page: Page, address: string) {
  if (!underWay.has(page)) {
    const asked = new Set<Request>()
    underWay.set(page, asked)
    page.on('request', (r) => !/\/api\/changes(\?|$)/.test(r.url()) && asked.add(r))
    page.on('requestfinished', (r) => asked.delete(r))
    page.on('requestfailed', (r) => asked.delete(r))
  }
  await page.goto(address)
  await drawn(page)
}

// drawn waits until a page that is loading stands still.
export async function drawn(page: Page) {
  await expect(page.locator('main h1').first()).toBeAttached()
  const asked = underWay.get(page)!
  await expect
    .poll(async () => {
      if (asked.size) return asked.size
      await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))))
      return asked.size
    }, { intervals: [20, 40, 80] })
    .toBe(0)
}
