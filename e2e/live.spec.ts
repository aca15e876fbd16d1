import { expect, test, type Browser, type Page } from '@playwright/test'
import { card, promise, ready } from './bench'
import { open } from './device'
import { choose, setDay } from './fields.mjs'
import { startStudio } from './studio.mjs'

// A phone at the bench and a laptop at the desk, and what happens when the line or the database fails.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio
test.beforeAll(async () => {
  studio = await startStudio({ port: 8438, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

// soon is well within the half minute after which a page asks by itself: what
// shows sooner was told. How fast that is, make bench measures.
const soon = { timeout: 10_000 }

async function device(browser: Browser, path: string, phone = false) {
  const context = await browser.newContext({ viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 }, hasTouch: phone })
  const page = await context.newPage()
  await open(page, studio.url + path)
  return page
}
const close = (...pages: Page[]) => Promise.all(pages.map((p) => p.context().close()))
const save = (page: Page) => page.getByRole('button', { name: 'Save', exact: true }).click()

test('what is done before the first word of the stream has come is shown', async ({ browser }) => {
  const page = await (await browser.newContext()).newPage()
  let listen = () => {}
  const held = new Promise<void>((resolve) => (listen = resolve))
  await page.route(/\/api\/changes/, (route) => held.then(() => route.continue()))
  // The stream says where things stand after the change is done, and before its answer is there.
  await page.route(/\/runs\/\d+\/done$/, async (route) => {
    const response = await route.fetch()
    const told = page.waitForResponse(/\/api\/changes/)
    listen()
    await told
    await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))))
    await route.fulfill({ response })
  })
  await page.goto(studio.url)
  await card(page, 'Clear the paper, first round').getByRole('button', { name: /^Done/ }).click()
  await expect(card(page, 'Clear the paper, first round')).toHaveCount(0, soon)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(card(page, 'Clear the paper, first round')).toBeVisible(soon)
  await close(page)
})

test('what one device does is told to the other', async ({ browser }) => {
  const phone = await device(browser, '/', true)
  const laptop = await device(browser, '/')
  await expect(card(laptop, 'Clear the paper, first round')).toBeVisible()
  await phone.getByRole('button', { name: /^Done/ }).first().click()
  await expect(card(laptop, 'Clear the paper, first round')).toHaveCount(0, soon)
  await phone.getByRole('button', { name: 'Undo' }).click()
  await expect(card(laptop, 'Clear the paper, first round')).toBeVisible(soon)

  await laptop.goto(`${studio.url}/orders`)
  await phone.goto(`${studio.url}/orders?tray=new-order`)
  await phone.getByLabel('Customer').fill('Dipper Dawn Club')
  await choose(phone.getByLabel('Product'), 'Slipway sign')
  await phone.getByLabel(/^Lettering/).fill('Dawn')
  await promise(phone)
  await expect(laptop.getByText('Dipper Dawn Club').first()).toBeVisible(soon)
  await close(phone, laptop)
})

test('a stream that drops is taken up again, and nothing is missed meanwhile', async ({ browser }) => {
  const laptop = await device(browser, '/orders')
  await laptop.context().setOffline(true)
  await expect(laptop.getByText(/Trying again; what you typed is kept/)).toBeVisible()
  const phone = await device(browser, '/orders?tray=order:4', true)
  await phone.getByRole('button', { name: 'Change' }).click()
  await setDay(phone.getByLabel('Due on'), '2027-05-28')
  await save(phone)
  // Other promises may break by it, which is asked first.
  const agree = phone.getByRole('button', { name: 'Do it all the same' })
  const moved = phone.getByText(/Due date moved from/)
  await expect(agree.or(moved)).toBeVisible()
  if (await agree.isVisible()) await agree.click()
  await expect(moved).toBeVisible()
  await laptop.context().setOffline(false)
  await expect(laptop.getByText(/Trying again; what you typed is kept/)).toHaveCount(0)
  await expect(laptop.getByRole('button', { name: /Withy Rowing Club/ }).filter({ hasText: '28 May' })).toBeVisible()
  await close(phone, laptop)
})

test('where the stream fails, asking again does', async ({ browser }) => {
  const laptop = await device(browser, '/orders')
  await laptop.route('**/api/changes**', (route) => route.abort())
  await laptop.reload()
  const phone = await device(browser, '/orders?tray=order:4', true)
  await phone.getByRole('button', { name: 'Change' }).click()
  await setDay(phone.getByLabel('Due on'), '2027-05-27')
  await save(phone)
  await expect(laptop.getByRole('button', { name: /Withy Rowing Club/ }).filter({ hasText: '27 May' })).toBeVisible({ timeout: 4000 })
  await close(phone, laptop)
})

test('two who change the same are told: yours and theirs, and what was typed is kept', async ({ browser }) => {
  const mine = await device(browser, '/products/1')
  const other = await device(browser, '/products/1')
  for (const page of [mine, other]) await page.getByRole('button', { name: 'Change name or price' }).click()
  await mine.getByLabel('Price, €').fill('17.00')
  await other.getByLabel('Price, €').fill('18.00')
  await other.getByLabel('Name', { exact: true }).fill('Crew ornament, large')
  await save(other)
  const note = mine.getByRole('alert', { name: 'Changed by someone since' })
  await expect(note).toContainText('yours: 17.00')
  await expect(note).toContainText('theirs: 18.00')
  await expect(mine.getByLabel('Price, €')).toHaveValue('17.00')
  await expect(mine.getByLabel('Name', { exact: true })).toHaveValue('Crew ornament, large')
  await note.getByRole('button', { name: /^Keep yours ?: Price/ }).click()
  await save(mine)
  await expect(mine.getByLabel('Price, €')).toHaveCount(0)
  await expect(mine.getByText('17.00').first()).toBeVisible()
  await expect(other.getByText('17.00').first()).toBeVisible(soon)
  await expect(mine.getByRole('heading', { name: 'Crew ornament, large' })).toBeVisible()
  await close(mine, other)
})

test('a save that comes too late is not lost and writes nothing over', async ({ browser }) => {
  const mine = await device(browser, '/workshop')
  // This device hears of nothing until it saves.
  await mine.route('**/api/{changes,revision,workshop}**', (route) => (route.request().method() === 'GET' ? route.abort() : route.continue()))
  const other = await device(browser, '/workshop')
  await other.getByRole('textbox', { name: 'Spindles of the turner' }).fill('99')
  await other.getByLabel('Longest sitting, minutes').fill('100')
  await save(other)
  await expect(other.getByText('Saved.', { exact: true })).toBeVisible()
  await mine.getByRole('textbox', { name: 'Spindles of the turner' }).fill('77')
  const refused = mine.waitForResponse((r) => r.request().method() === 'PUT' && r.status() === 409)
  await save(mine)
  await refused
  await mine.unroute('**/api/{changes,revision,workshop}**')
  await expect(mine.getByText(/Not saved yet: it was changed by someone since|Changed by someone since you began/).first()).toBeVisible()
  await expect(mine.getByRole('textbox', { name: 'Spindles of the turner' })).toHaveValue('77')
  await expect(mine.getByLabel('Longest sitting, minutes')).toHaveValue('100')
  await mine.getByRole('button', { name: /^Take theirs ?: Machines/ }).click()
  await expect(mine.getByRole('textbox', { name: 'Spindles of the turner' })).toHaveValue('99')
  await close(mine, other)
})

test('of two who take up the same step one has it and the other is told', async ({ browser }) => {
  const isolde = await device(browser, '/')
  const bram = await device(browser, '/', true)
  await choose(bram.getByLabel('Who is at this device'), 'Bram')
  const take = (page: Page) => ready(page, 'Look and decide', '4 × Regatta tumbler').getByRole('button', { name: /^Take up/ })
  // Neither hears of the other before both have tapped.
  for (const page of [isolde, bram]) await page.route('**/api/{changes,today,revision}**', (route) => route.abort())
  await Promise.all([take(isolde).click(), take(bram).click()])
  for (const page of [isolde, bram]) await page.unroute('**/api/{changes,today,revision}**')
  const told = (page: Page) => page.getByText(/(Isolde|Bram) already has this step of batch \d+, lot \d+, in hand/)
  await expect
    .poll(async () => (await told(isolde).count()) + (await told(bram).count()))
    .toBe(1)
  await expect(isolde.getByRole('article', { name: 'In hand: Look and decide' })).toHaveCount(1)
  await expect(bram.getByRole('article', { name: 'In hand: Look and decide' })).toHaveCount(1)
  await close(isolde, bram)
})

test('a button pressed twice on a slow line does its work once, and shows that it works', async ({ browser }) => {
  const laptop = await device(browser, '/orders?tray=new-order')
  let letGo = () => {}
  const held = new Promise<void>((resolve) => (letGo = resolve))
  let sent = 0
  await laptop.route('**/api/orders', async (route) => {
    if (route.request().method() !== 'POST') return route.continue()
    sent++
    await held
    // the answer of the first is lost on its way
    if (sent > 1) return route.continue()
    await route.fetch()
    await route.abort()
  })
  await laptop.getByLabel('Customer').fill('Heron Twice')
  await choose(laptop.getByLabel('Product'), 'Slipway sign')
  await laptop.getByLabel(/^Lettering/).fill('Once')
  await expect(laptop.locator('.promise[aria-busy="false"]')).toBeVisible()
  await laptop.getByRole('button', { name: /^Promise/ }).dblclick()
  await expect(laptop.getByRole('button', { name: 'Saving' })).toBeDisabled()
  await expect(laptop.getByRole('button', { name: 'Saving' })).toHaveAttribute('aria-busy', 'true')
  await expect(laptop.getByText(/The answer takes longer than usual/)).toBeVisible()
  letGo()
  await expect(laptop.getByText(/Order \d+ taken/)).toBeVisible()
  expect(sent).toBe(2)
  await laptop.goto(`${studio.url}/orders`)
  await expect(laptop.getByRole('button', { name: /Heron Twice/ })).toHaveCount(1)
  await close(laptop)
})

test('the database ends while somebody works: that is said calmly, and the page goes on by itself', async ({ browser }) => {
  const laptop = await device(browser, '/orders?tray=new-order')
  await laptop.getByLabel('Customer').fill('Storm Guild')
  await choose(laptop.getByLabel('Product'), 'Slipway sign')
  await laptop.getByLabel(/^Lettering/).fill('Gale')
  const letItStart = studio.killDatabase()
  await laptop.getByRole('button', { name: /^Promise/ }).click()
  await expect(laptop.getByText(/The database is not reached just now. Trying again/)).toBeVisible()
  await expect(laptop.getByLabel('Customer')).toHaveValue('Storm Guild')
  letItStart()
  await expect(laptop.getByText(/The database is not reached just now/)).toHaveCount(0, { timeout: 60_000 })
  // It was pressed once; the page went on trying for some seconds, and may have left it to a second press,
  // and to another when what it breaks has changed meanwhile.
  const promise = laptop.getByRole('button', { name: /^Promise/ })
  const taken = laptop.getByText(/Order \d+ taken/)
  await expect(async () => {
    if (!(await taken.isVisible())) await promise.click({ timeout: 1_000 })
    await expect(taken).toBeVisible({ timeout: 4_000 })
  }).toPass({ timeout: 40_000 })
  await laptop.goto(`${studio.url}/orders`)
  await expect(laptop.getByRole('button', { name: /Storm Guild/ })).toHaveCount(1)
  await close(laptop)
})

test('a full disk is said where the work was, and what was typed stays', async ({ browser }) => {
  const laptop = await device(browser, '/orders?tray=new-order')
  const detail = 'The disk that holds the database is full, so nothing was saved. Make room on it and try again.'
  await laptop.route('**/api/orders', (route) =>
    route.request().method() === 'POST'
      ? route.fulfill({ status: 507, contentType: 'application/problem+json', body: JSON.stringify({ type: '/problems/disk-full', title: 'Insufficient Storage', status: 507, detail }) })
      : route.continue(),
  )
  await laptop.getByLabel('Customer').fill('Full House')
  await laptop.getByLabel(/^Lettering/).fill('Ada')
  await laptop.getByRole('button', { name: /^Promise/ }).click()
  await expect(laptop.getByRole('alert').filter({ hasText: detail })).toBeVisible()
  await expect(laptop.getByLabel('Customer')).toHaveValue('Full House')
  await close(laptop)
})
