import { setDay } from './fields.mjs'
import { expect, type Page } from '@playwright/test'
import { check, type State } from './axe'
import { open, test } from './device'
import { startStudio } from './studio.mjs'

type Studio = Awaited<ReturnType<typeof startStudio>>
let demo: Studio

test.beforeAll(async () => {
  demo = await startStudio({ port: 8443, at: '2027-05-04T10:26:00Z' })
})
test.afterAll(() => demo.stop())

const states: Record<string, State> = {
  Today: { path: '/', shows: 'Ready for hands' },
  'Today, naming spoils': { path: '/', shows: 'Tap the pieces that are lost.', open: (page) => page.getByRole('button', { name: /spoiled$/ }).click() },
  'Today, a rest not over': { path: '/', shows: 'I accept the risk', open: (page) => page.getByRole('button', { name: /^Begin early/ }).first().click() },
  Plan: { path: '/plan', shows: 'This week holds every promise but one' },
  'Plan with a lot': { path: '/plan?tray=lot:4', shows: 'Step by step' },
  'Plan with a new batch': { path: '/plan?tray=new-batch', shows: 'Pieces to start' },
  'Plan with what if': {
    path: '/plan?tray=what-if',
    shows: 'What comes of it',
    open: async (page) => {
      for (const name of ['Somebody is away', 'Somebody comes in', 'One more rack', 'An order more', 'An order less']) await page.getByRole('button', { name }).click()
      await expect(page.getByText(/as it is$/)).toBeVisible()
    },
  },
  'Plan with suggestions': { path: '/plan?tray=suggestions', shows: 'to be begun by' },
  Orders: { path: '/orders', shows: 'This week' },
  'Orders with an order': { path: '/orders?tray=order:4', shows: 'What happened' },
  'Orders with a new order': { path: '/orders?tray=new-order', shows: 'An hour earns' },
  'A refused order': { path: '/orders?tray=new-order', shows: 'this cannot be empty', open: (page) => page.getByRole('button', { name: /^Promise/ }).click() },
  Customers: { path: '/orders/customers', shows: 'Lock-keepers’ choir' },
  'A customer': { path: '/orders/customers?tray=customer:1', shows: 'What they had' },
  'A customer being changed': { path: '/orders/customers?tray=customer:1', shows: 'What they like', open: (page) => page.getByRole('button', { name: 'Change', exact: true }).click() },
  'Money to come': { path: '/orders/owed', shows: 'Regatta office' },
  Texts: { path: '/workshop/texts', shows: 'Thanks, and how to look after it', open: (page) => page.getByRole('button', { name: 'A proof to look at' }).click() },
  Papers: { path: '/orders/papers', shows: 'Invoice 41' },
  Labels: { path: '/orders/labels', shows: 'Gone of the first sheet' },
  'An order with papers': { path: '/orders?tray=order:1', shows: 'Invoice 41' },
  'A payment': { path: '/orders?tray=order:4', shows: 'Note it', open: (page) => page.getByRole('button', { name: 'Note a payment' }).click() },
  Quotes: { path: '/orders/quotes', shows: 'Tern Boathouse' },
  'A quote': { path: '/orders/quotes?tray=quote:2', shows: 'They accept' },
  'A new quote': { path: '/orders/quotes?tray=new-order&as=quote', shows: 'Stands until' },
  Terms: { path: '/workshop/terms', shows: 'Asked ahead' },
  Products: { path: '/products', shows: 'Slipway sign' },
  'What can I make?': { path: '/products/new', shows: 'ways to make it' },
  'What can I make, refused': { path: '/products/new', shows: 'this cannot be empty', open: (page) => page.getByRole('button', { name: /^Make it so/ }).first().click() },
  Library: { path: '/products/library', shows: 'Printed tissue, melted in' },
  'Library with a method': { path: '/products/library', shows: 'Where practitioners differ', open: (page) => page.getByRole('button', { name: 'Gel-medium lift' }).click() },
  'Library, bringing a method in': { path: '/products/library', shows: 'A method file (JSON)', open: (page) => page.getByRole('button', { name: 'Bring a method in' }).click() },
  'Product with a step': { path: '/products/17', shows: 'What it uses', open: (page) => page.getByRole('button', { name: /^Clear wax: / }).click() },
  'Product with steps to add': { path: '/products/1', shows: 'Glitter ground', open: (page) => page.getByRole('button', { name: 'Add a step' }).click() },
  'Product with its facts': { path: '/products/1', shows: 'The picture and its print', open: (page) => page.getByRole('button', { name: 'Blank and picture', exact: true }).click() },
  'Product with its choices': { path: '/products/1', shows: 'Where does the medium go?', open: (page) => page.getByRole('button', { name: 'How we do it' }).click() },
  'Product with its versions': { path: '/products/1', shows: 'Keep it as a method of yours', open: (page) => page.getByRole('button', { name: 'Versions and copies' }).click() },
  'Product with a stop overruled': { path: '/products/5', shows: 'Overruled by Isolde' },
  Costs: { path: '/products/1/costs?beside=12', shows: 'left for your time', open: (page) => page.getByRole('button', { name: /^Lay / }).first().click() },
  Prices: { path: '/products/prices', shows: 'Does a stall pay?' },
  'Prices with a way of selling': { path: '/products/prices?tray=outlet:2', shows: 'Prices are set so that' },
  Prints: { path: '/prints', shows: 'Harbour at noon' },
  'Prints with a picture': { path: '/prints?tray=artwork:1', shows: 'up to 101 mm wide' },
  Sheets: { path: '/prints/sheets', shows: 'What it comes to' },
  'Sheets that do not fit': { path: '/prints/sheets', shows: /can be printed/, open: (page) => page.getByLabel('Margin, mm').fill('60') },
  'How a product is printed': { path: '/prints/design/1', shows: 'What people see' },
  'How it is printed, refused': { path: '/prints/design/1', shows: 'must be from', open: (page) => page.getByLabel('Width, mm').fill('1') },
  Proof: { path: '/prints/proof/4', shows: 'All approved' },
  'Prints with a file that is refused': {
    path: '/prints',
    shows: 'whatever its name says',
    open: (page) => page.locator('input[type=file][multiple]').setInputFiles({ name: 'diary.png', mimeType: 'image/png', buffer: Buffer.from('dear diary') }),
  },
  Stores: { path: '/stores', shows: 'To buy' },
  'Stores, what was bought': { path: '/stores', shows: 'Reed & Rush Blanks', open: (page) => page.getByRole('tab', { name: 'Bought' }).click() },
  'Stores, the shelf': { path: '/stores?view=shelf', shows: '12 ready to sell' },
  'Stores with a shelf, refused': {
    path: '/stores?view=shelf&tray=shelf:10',
    shows: 'at least 1',
    open: async (page) => {
      await page.getByRole('button', { name: 'Gone', exact: true }).click()
      await page.getByLabel('How many are gone').fill('none')
      await page.getByRole('button', { name: 'Take them off' }).click()
    },
  },
  'Stores with a table, refused': {
    path: '/stores?tray=files',
    shows: 'this column is not known here',
    open: async (page) => {
      await page.locator('input[type=file]').setInputFiles({ name: 'wrong.csv', mimeType: 'text/csv', buffer: Buffer.from('name,colour\n') })
    },
  },
  'Stores with a material': { path: '/stores?tray=material:5', shows: 'Where it came from and went', open: (page) => page.getByRole('button', { name: 'Count', exact: true }).click() },
  'Stores, a material being changed': { path: '/stores?tray=material:1', shows: 'Smallest of this class, mm', open: (page) => page.getByRole('button', { name: 'Change', exact: true }).click() },
  'Stores with a new material, refused': { path: '/stores?tray=new-material', shows: 'this cannot be empty', open: (page) => page.getByRole('button', { name: 'Add it' }).click() },
  'Stores with a receipt': { path: '/stores?tray=receipt:1', shows: 'Sorted into classes' },
  Notebook: { path: '/notebook', shows: 'Cloudy or grey when dry' },
  'A batch made before': { path: '/notebook/batches/new', shows: 'Work out when each step was' },
  'Notebook with a sign': { path: '/notebook?product=1&sign=lifted', shows: 'Change the recipe so' },
  'A batch': { path: '/?tray=batch:3', shows: 'Batch card to print' },
  Product: { path: '/products/1', shows: 'What a piece costs' },
  'Is all well': { path: '/workshop/health', shows: 'Everything out' },
  'Who did what': { path: '/workshop/trail', shows: 'As a table' },
  'Who may come in': { path: '/workshop/access', shows: 'Be the owner' },
  Workshop: { path: '/workshop', shows: 'People and their hours' },
  Find: { path: '/', shows: 'Withy Rowing Club, order 1004', open: (page) => findFor(page, 'Withy') },
  Keys: { path: '/', shows: 'Single keys act on this device', open: (page) => page.keyboard.press('h') },
  'Order being changed, refused': {
    path: '/orders?tray=order:4',
    shows: 'this day is past',
    open: async (page) => {
      await page.getByRole('button', { name: 'Change' }).click()
      await setDay(page.getByLabel('Due on'), '2020-01-01')
      await page.getByRole('button', { name: 'Save', exact: true }).click()
    },
  },
  'Order being cancelled': {
    path: '/orders?tray=order:4',
    shows: 'Cancel this order?',
    open: async (page) => {
      await page.getByRole('button', { name: 'Change' }).click()
      await page.getByRole('button', { name: 'Cancel the order' }).click()
    },
  },
  'A database that is away': {
    path: '/',
    shows: 'Trying again; what you typed is kept',
    open: (page) => page.route('**/api/**', (route) => route.fulfill({ status: 503, contentType: 'application/problem+json', body: '{"title":"","status":503,"detail":"away"}' })).then(() => page.getByRole('button', { name: 'Put down' }).click()),
  },
  'A form changed by someone since': {
    path: '/products/1',
    shows: 'Changed by someone since you began',
    open: async (page) => {
      await page.getByRole('button', { name: 'Change name or price' }).click()
      await page.getByLabel('Price, €').fill('20.00')
      const { version, name } = await (await page.request.get(`${demo.url}/api/products/1`)).json()
      await page.request.put(`${demo.url}/api/products/1`, { data: { name, price: '21.00', version } })
    },
  },
  'The end of a short rest': {
    path: '/',
    shows: 'Ready since',
    open: async (page) => {
      // a server that says it is half an hour later
      await page.route('**/api/today', async (route) => {
        const answer = await route.fetch()
        const today = await answer.json()
        for (const rest of today.resting) {
          rest.start = new Date(Date.parse(today.now) - 60_000).toISOString()
          rest.ready = new Date(Date.parse(today.now) + 1_000).toISOString()
        }
        await route.fulfill({ response: answer, json: today })
      })
      await page.reload()
    },
  },
  'Today while it loads': {
    path: '/workshop',
    shows: 'Today',
    open: async (page) => {
      await page.route('**/api/today', () => undefined)
      await page.goto(demo.url)
      await expect(page.locator('main [aria-busy=true]')).toBeVisible()
    },
  },
  'A product that is not there': { path: '/products/999', shows: 'There is no such product' },
  'An order that is not there': { path: '/orders?tray=order:999', shows: 'There is no such order' },
  'Nothing here': { path: '/no/such/page', shows: 'There is nothing at this address' },
}

async function findFor(page: Page, text: string) {
  await page.keyboard.press('f')
  await page.getByLabel(/^Find an order/).fill(text)
}

for (const [name, state] of Object.entries(states)) {
  test(`${name} has no accessibility violation and no script error`, ({ page }) => check(page, demo.url, state))
}

test('the keyboard alone reaches a step and opens it', async ({ page }) => {
  await open(page, `${demo.url}/plan`)
  await page.keyboard.press('3')
  await expect(page).toHaveURL(/\/orders$/)
  await page.keyboard.press('n')
  await expect(page.getByRole('complementary', { name: 'New order' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('complementary')).toHaveCount(0)
  await page.getByRole('group', { name: /^Today from five/ }).getByRole('button').first().focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('complementary', { name: 'Lot' })).toBeVisible()
})
