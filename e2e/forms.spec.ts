import { expect, type Page } from '@playwright/test'
import { promise } from './bench'
import { test } from './device'
import { choose } from './fields.mjs'
import { startStudio } from './studio.mjs'

// Every form meets what people mistype and worse: the fault stands beside its
// field, and everything typed is kept.

type Studio = Awaited<ReturnType<typeof startStudio>>
let studio: Studio
test.beforeAll(async () => {
  studio = await startStudio({ port: 8452, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => studio.stop())

const long = 'é'.repeat(10_000)
const strange = ['👩‍👩‍👧‍👦🔥', '\u202eevil', `Z${'\u0337\u0321'.repeat(20)}`, "<b>'; DROP TABLE people; --"]

interface Form {
  path: string
  open?: (page: Page) => Promise<unknown>
  submit: RegExp
  // filled makes the form sound but for the field in question.
  filled?: Record<string, string>
  // wrong is what is typed into a field, and what stands beside it then.
  wrong: [field: string, typed: string, fault: RegExp][]
}

const press = (name: string | RegExp) => (page: Page) => page.getByRole('button', { name, exact: typeof name === 'string' }).first().click()

const forms: Record<string, Form> = {
  'a new order': {
    path: '/orders?tray=new-order',
    submit: /^(Promise|Take the order)/,
    filled: { Customer: 'Reed Choir', Product: 'Slipway sign', Lettering: 'Ada' },
    wrong: [
      ['Customer', '', /cannot be empty/],
      ['Customer', '   ', /say whom the order is for/],
      ['Pieces', '1000000000', /at most 500/],
      ['Pieces', '0', /at least 1/],
      ['Pieces', '-3', /at least 1/],
      ['Pieces', '1.5', /integer|whole/],
      ['Pieces', '', /at least 1/],
      ['Lettering', '', /0 lines of lettering|has no lettering/],
      ['Lettering', 'x'.repeat(130), /at most 120 characters/],
      ['Due on', '01/01/1999', /this day is past/],
      ['Due on', '31/12/9999', /more than three years ahead/],
    ],
  },
  'the workshop': {
    path: '/workshop',
    submit: /^Save$/,
    wrong: [
      ['Time zone', 'Moon/Base', /not a time zone known here/],
      ['Currency', 'eu', /three capital letters/],
      ['Places', '0', /at least 1/],
      ['Places', '1000000000', /at most 5000/],
      ['Places', '2.5', /integer|whole/],
      ['Longest sitting, minutes', '-1', /at least 15/],
      ['Your hour costs, €', '-5', /an amount such as 16.00/],
      ['Your hour costs, €', 'a lot', /an amount such as 16.00/],
    ],
  },
  'a way of selling': {
    path: '/products/prices?tray=outlet:2',
    submit: /^Save$/,
    wrong: [
      ['Name', '', /cannot be empty/],
      ['Fee, %', '100', /under 100/],
      ['Fee a sale, €', '0.12345', /an amount such as 0.30/],
      ['Card, %', '-1', /under 100/],
      ['Sales tax, %', 'a fifth', /under 100/],
      ['% of the price', '98.5', /fees and margin together/],
    ],
  },
  'a new material': {
    path: '/stores?tray=new-material',
    submit: /^Add it$/,
    filled: { Name: 'Gold leaf' },
    wrong: [
      ['Name', '', /cannot be empty/],
      ['Name', 'Gel medium', /a material of this name already/],
      ['A piece costs, €', '1.23456789', /an amount such as 0.92/],
      ['Days from order to door', '400', /at most 365/],
      ['Keeps once opened, days', 'long', /write a number/],
      ['Keeps once opened, days', '0', /at least 1/],
    ],
  },
  'a receipt': {
    path: '/stores?tray=receipt:5',
    submit: /^Enter it/,
    filled: { From: 'Reed & Rush Blanks', Of: '250 ml', 'All for, €': '9.90' },
    wrong: [
      ['From', '   ', /say whom it was bought from/],
      ['It came on', '01/01/2031', /today or before/],
      ['Packs', '0', /at least 1/],
      ['Packs', 'two', /at least 1/],
      ['Of', '1 kg', /say its density first/],
      ['Of', '-3 ml', /is not an amount/],
      ['Of', '0 ml', /over 0/],
      ['All for, €', '9.12345', /an amount such as 18.90/],
      ['All for, €', '-2', /an amount such as 18.90/],
      ['Shipping and duty, €', 'some', /an amount such as 4.90/],
    ],
  },
  'blanks that are no good': {
    path: '/stores?tray=material:1',
    open: press('Some are no good'),
    submit: /^Count them out$/,
    wrong: [
      ['No good on arrival', '0', /at least 1/],
      ['No good on arrival', 'some', /at least 1/],
      ['No good on arrival', '9000', /of it are left, and at least one of what came must be good/],
    ],
  },
  'a count of the shelf': {
    path: '/stores?view=shelf&tray=shelf:10',
    open: press('Count'),
    submit: /^That is what is there$/,
    wrong: [
      ['Spare pieces really there', '', /at least 0/],
      ['Spare pieces really there', '-3', /at least 0/],
      ['Spare pieces really there', '2.5', /at least 0/],
      ['Spare pieces really there', '99999', /at most 2000/],
    ],
  },
  'pieces gone from the shelf': {
    path: '/stores?view=shelf&tray=shelf:10',
    open: press('Gone'),
    submit: /^Take them off$/,
    wrong: [
      ['How many are gone', 'two', /at least 1/],
      ['How many are gone', '0', /at least 1/],
      ['How many are gone', '500', /on the shelf there are 4/],
    ],
  },
  'name and price': {
    path: '/products/1',
    open: press('Change name or price'),
    submit: /^Save$/,
    wrong: [
      ['Name', '', /cannot be empty/],
      ['Name', '   ', /give the product a name/],
      ['Price, €', 'seventeen', /an amount such as 10.50/],
      ['Price, €', '-1', /an amount such as 10.50/],
      ['Price, €', '1.23456', /an amount such as 10.50/],
    ],
  },
  'blank and picture': {
    path: '/products/3',
    open: press('Blank and picture'),
    submit: /^Save and check$/,
    wrong: [
      ['Thickness', 'thin', /not a|write|number|unit/],
      ['Thickness', '-3 mm', /./],
      ['Picture width', '9 parsecs', /unit/],
      ['Paper, g/m²', '-1', /at least 0/],
    ],
  },
  'a picture that is not here': {
    path: '/products/9',
    open: press('Blank and picture'),
    submit: /^Save and check$/,
    wrong: [['Pixels an inch', '1000000000', /at most 10000/]],
  },
  'a new product': {
    path: '/products/new',
    submit: /^Make it so/,
    filled: { 'Name it': 'Swan' },
    wrong: [
      ['Name it', '', /cannot be empty/],
      ['Price, €', 'x', /an amount such as 10.50/],
    ],
  },
  'a method file': {
    path: '/products/library',
    open: press('Bring a method in'),
    submit: /^(Bring it in|Check and bring in|Bring in)/,
    wrong: [['A method file (JSON)', 'not JSON at all', /not readable as JSON/]],
  },
}

const field = (page: Page, label: string) => page.locator('main, .tray').getByLabel(label === 'Lettering' ? /^Lettering/ : label, { exact: true }).last()

async function fill(page: Page, label: string, text: string) {
  const control = field(page, label)
  if (await control.evaluate((e) => e.closest('.el-select__wrapper') !== null)) return choose(control, text)
  await control.fill(text)
  if (await control.evaluate((e) => e.closest('.el-date-editor') !== null)) await control.press('Tab')
}

for (const [name, form] of Object.entries(forms))
  test(`${name}: each fault stands beside its field, and what was typed is kept`, async ({ page }) => {
    const failed: string[] = []
    page.on('response', (r) => r.status() >= 500 && failed.push(`${r.status()} ${r.url()}`))
    await page.goto(studio.url + form.path)
    await form.open?.(page)
    for (const [other, text] of Object.entries(form.filled ?? {})) await fill(page, other, text)
    for (const [label, typed, fault] of form.wrong) {
      const control = field(page, label)
      const sound = await control.inputValue()
      await fill(page, label, typed)
      await page.getByRole('button', { name: form.submit }).first().click()
      await expect
        .poll(
          () =>
            control.evaluate((e) => {
              const id = e.getAttribute('aria-describedby')
              return e.getAttribute('aria-invalid') === 'true' && id ? (document.getElementById(id)?.textContent ?? '') : ''
            }),
          { message: `${label}: ${typed.slice(0, 40)}` },
        )
        .toMatch(fault)
      await expect(page.locator('[aria-invalid="true"]:focus'), `${label}: the focus is on what is wrong`).toHaveCount(1)
      await expect(control).toHaveValue(typed)
      for (const [other, text] of Object.entries(form.filled ?? {}))
        if (other !== label && other !== 'Product') await expect(field(page, other)).toHaveValue(text)
      await control.fill(sound)
    }
    expect(failed).toEqual([])
  })

test('strange names are kept as they are, shown whole, and break no page', async ({ page }) => {
  const failed: string[] = []
  page.on('response', (r) => r.status() >= 500 && failed.push(`${r.status()} ${r.url()}`))
  page.on('pageerror', (e) => failed.push(String(e)))
  for (const name of [...strange, long.slice(0, 120)]) {
    await page.goto(`${studio.url}/orders?tray=new-order`)
    await choose(field(page, 'Product'), 'Slipway sign')
    await field(page, 'Customer').fill(name)
    await field(page, 'Lettering').fill(name)
    await promise(page)
    await expect(page.getByText(/Order \d+ taken/)).toBeVisible()
    const order = page.getByRole('complementary', { name: 'Order' })
    await expect(order.getByRole('heading', { level: 1 })).toHaveText(name)
  }
  for (const path of ['/', '/plan', '/orders', '/plan?tray=new-batch']) {
    for (const width of [390, 1280]) {
      await page.setViewportSize({ width, height: 800 })
      await page.goto(studio.url + path)
      await expect(page.locator('main h1').first()).toBeAttached()
      await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
      expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth), path).toBeLessThanOrEqual(0)
    }
  }
  expect(failed).toEqual([])
})
