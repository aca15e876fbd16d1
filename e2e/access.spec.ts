import { expect, type Browser, type Page } from '@playwright/test'
import { card, done, ready, takeUp } from './bench'
import { check } from './axe'
import { open, test } from './device'
import { startStudio } from './studio.mjs'

// A studio gets an owner, and devices come in: a phone by a code, over the house's network.
test.describe.configure({ mode: 'serial' })

let studio: Awaited<ReturnType<typeof startStudio>>
let codes: string[] = []
test.beforeAll(async () => {
  studio = await startStudio({ port: 8475, at: '2027-05-04T10:26:00Z', house: true })
})
test.afterAll(() => studio.stop())

const password = 'reeds by the slow water'
const access = '/workshop/access'

// device is another browser, as wide as it is.
async function device(browser: Browser, width: number, height = 844) {
  const context = await browser.newContext({ viewport: { width, height }, ignoreHTTPSErrors: true, hasTouch: width < 500 })
  return context.newPage()
}

const door = (page: Page) => page.locator('.door')

async function signIn(page: Page, name: string, url = studio.url + access) {
  await page.goto(url)
  await door(page).getByLabel('Name').fill(name)
  await door(page).getByLabel('Password').fill(password)
  await door(page).getByRole('button', { name: 'Come in', exact: true }).click()
}

const region = (page: Page, name: string) => page.getByRole('region', { name })

// pair shows the code for a device and lets the device in by it, where the code leads.
async function pair(owner: Page, phone: Page, name: string) {
  await owner.getByLabel('The device is called').fill(name)
  await owner.getByRole('button', { name: 'Show the code' }).click()
  const code = await owner.locator('.typed').innerText()
  await phone.goto(`${studio.houseUrl}/pair#${code.replaceAll('-', '')}`)
  await expect(phone).toHaveURL(`${studio.houseUrl}/pair`) // the code does not stay in the address
  await phone.getByRole('button', { name: 'Come in' }).click()
  await expect(owner.getByText(`${name} is in.`)).toBeVisible()
}

test('an owner is set up, and everybody signs in from then on', async ({ page, browser }) => {
  await open(page, studio.url + access)
  await expect(page.getByLabel('Your name')).toHaveValue('Isolde')
  await page.getByLabel('Password').fill('short')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/at least 10 characters/)).toBeVisible()
  await page.getByLabel('Password').fill(password)
  await page.keyboard.press('Enter')
  await expect(page.getByText('keep them on paper')).toBeVisible()
  codes = await page.locator('.codes code').allInnerTexts()
  expect(codes).toHaveLength(8)
  await page.getByRole('button', { name: 'I have kept them' }).click()
  await expect(region(page, 'Devices that are in')).toContainText('a computer, this one')
  await check(page, studio.url, { path: access, shows: 'Let a device in' })

  const stranger = await device(browser, 1280, 800)
  await check(stranger, studio.url, { path: '/orders', shows: 'Who is there?' })
  await expect(stranger.getByText('Order 1')).toHaveCount(0)
  await stranger.context().close()
})

test('a phone is paired by the code and works a step, and sees no price and no customer', async ({ page, browser }) => {
  await signIn(page, 'Isolde')
  const phone = await device(browser, 390)
  await check(phone, studio.houseUrl, { path: '/pair', shows: 'The code works once' })
  await phone.goto('about:blank')
  const said: string[] = []
  phone.on('response', async (r) => {
    if (r.url().includes('/api/') && r.ok() && r.headers()['content-type']?.includes('json')) said.push(await r.text().catch(() => ''))
  })
  await pair(page, phone, 'phone by the sink')
  await takeUp(phone, 'Degrease', '4 × Lantern glass')
  await done(phone, 'Degrease')
  await expect(ready(phone, 'Degrease', '4 × Lantern glass')).toHaveCount(0)
  await expect(region(page, 'Devices that are in')).toContainText('phone by the sink')

  for (const path of ['/', '/plan', '/?tray=lot:3', '/?tray=batch:3', '/prints/sheets']) {
    await check(phone, studio.houseUrl, { path, shows: /./ })
    expect(await phone.locator('body').innerText()).not.toMatch(/€|Reedmere|Heron|for .* Club/)
  }
  expect(said.length).toBeGreaterThan(15)
  const customers = (await (await page.request.get(`${studio.url}/api/customer-names`)).json()) as string[]
  expect(customers.length).toBeGreaterThan(5)
  for (const text of said) for (const name of [...customers, 'labourPerHour', 'unitCost', 'price"']) expect(text).not.toContain(name)
  await open(phone, `${studio.houseUrl}/orders`)
  await expect(phone.getByText('This page is for those who run the studio.')).toBeVisible()
  await expect(phone.getByRole('link', { name: 'Orders' })).toHaveCount(0)

  // used once
  const second = await device(browser, 390)
  await second.goto(`${studio.houseUrl}/pair#aaaabbbbcccc`)
  await second.getByRole('button', { name: 'Come in' }).click()
  await expect(second.getByText('This code is not known here.')).toBeVisible()

  // whoever holds it says so by PIN
  await page.getByRole('button', { name: 'A PIN for shared phones' }).click()
  await page.getByRole('textbox', { name: 'PIN' }).fill('4711')
  await page.getByRole('button', { name: 'Set it' }).click()
  await expect(page.getByText('The PIN is set.')).toBeVisible()
  await open(phone, studio.houseUrl)
  const who = phone.getByLabel('Who is at this device')
  await who.locator('xpath=ancestor::*[contains(@class, "el-select__wrapper")]').click()
  await phone.getByRole('option', { name: 'Isolde' }).click()
  await phone.getByRole('textbox', { name: 'PIN' }).fill('0000')
  await phone.getByRole('button', { name: 'It is me' }).click()
  await expect(phone.getByText('this is not the PIN of Isolde')).toBeVisible()
  await phone.getByRole('textbox', { name: 'PIN' }).fill('4711')
  await phone.getByRole('button', { name: 'It is me' }).click()
  await expect(region(page, 'Devices that are in')).toContainText('shared, Isolde holds it')

  // and it is out when the owner says so, at once
  await page.getByRole('button', { name: 'End phone by the sink' }).click()
  await expect(phone.getByText('Who is there?')).toBeVisible()
  await phone.context().close()
  await second.context().close()
})

test('who is out while typing comes in again and has lost nothing', async ({ page, browser }) => {
  await signIn(page, 'Isolde')
  await page.getByRole('button', { name: 'Let somebody in' }).click()
  const form = page.locator('.member-form')
  await form.getByLabel('Name').fill('Bram')
  const role = form.getByLabel('Role')
  await role.locator('xpath=ancestor::*[contains(@class, "el-select__wrapper")]').click()
  await page.getByRole('option', { name: 'Maker' }).click()
  await form.getByLabel(/Password/).fill(password)
  await form.getByRole('button', { name: 'Let in' }).click()
  await expect(page.getByText('Bram may come in.')).toBeVisible()

  const laptop = await device(browser, 1280, 800)
  await signIn(laptop, 'Bram', `${studio.url}/orders?tray=new-order`)
  await laptop.getByLabel('Customer').fill('Curlew Court')
  await page.getByRole('button', { name: 'End all but this one' }).click()
  await page.getByRole('button', { name: 'Yes, end all others now' }).click()
  await expect(laptop.getByText('Who is there?')).toBeVisible()
  await door(laptop).getByLabel('Name').fill('bram')
  await door(laptop).getByLabel('Password').fill('not this one, no')
  await laptop.keyboard.press('Enter')
  await expect(laptop.getByText('do not belong together')).toBeVisible()
  await door(laptop).getByLabel('Password').fill(password)
  await laptop.keyboard.press('Enter')
  await expect(laptop.getByText('Who is there?')).toHaveCount(0)
  await expect(laptop.getByLabel('Customer')).toHaveValue('Curlew Court')
  await expect(laptop.getByRole('heading', { name: 'Orders' })).toBeVisible()
  await laptop.context().close()
})

test('a customer looks at a proof by its address and answers, and sees nothing else', async ({ page, browser }) => {
  await signIn(page, 'Isolde', `${studio.url}/prints/proof/4`)
  await page.getByRole('button', { name: 'A page for the customer' }).click()
  await page.getByRole('button', { name: 'Make an address for it' }).click()
  const address = await page.locator('.where').innerText()
  expect(address).toContain(`${studio.houseUrl}/proof/`)
  const customer = await device(browser, 390)
  const asked: string[] = []
  customer.on('response', (r) => r.url().includes('/api/') && asked.push(`${r.status()} ${new URL(r.url()).pathname}`))
  await check(customer, '', { path: address, shows: 'So your pieces will look' })
  expect(asked.length).toBeGreaterThan(1)
  for (const what of asked) expect(what).toMatch(/^200 \/api\/proofs\//)
  await customer.getByRole('button', { name: /^Change something.*piece 2$/ }).click()
  await customer.getByLabel('What is to be changed').fill('Osrick, with a k')
  await customer.getByRole('button', { name: 'Tell the studio' }).click()
  await expect(customer.getByText('to be changed: Osrick, with a k')).toBeVisible()
  await customer.getByRole('button', { name: /^It is right.*piece 1$/ }).click()
  await expect(page.getByText('Osrick, with a k')).toBeVisible()
  await expect(page.getByText('1 of 12 approved')).toBeVisible()
  await page.getByRole('button', { name: 'Another address' }).click()
  await expect(page.locator('.where')).not.toHaveText(address)
  await customer.reload()
  await expect(customer.getByText('This address shows nothing any more.')).toBeVisible()
  await customer.context().close()
})

test('a passkey lets in where the studio has a name, and a code where the password is forgotten', async ({ page, browser }) => {
  await signIn(page, 'Isolde')
  await expect(page.getByText('A passkey belongs to a name')).toBeVisible()

  const laptop = await device(browser, 1280, 800)
  const keys = await laptop.context().newCDPSession(laptop)
  await keys.send('WebAuthn.enable')
  await keys.send('WebAuthn.addVirtualAuthenticator', {
    options: { protocol: 'ctap2', transport: 'internal', hasResidentKey: true, hasUserVerification: true, isUserVerified: true, automaticPresenceSimulation: true },
  })
  const named = studio.url.replace('127.0.0.1', 'localhost')
  await signIn(laptop, 'Isolde', named + access)
  await laptop.getByRole('button', { name: 'Make a passkey on this device' }).click()
  await expect(region(laptop, 'This sign-in')).toContainText('for localhost')
  await laptop.getByRole('button', { name: 'Sign out' }).click()
  await laptop.getByRole('button', { name: 'Come in by a passkey' }).click()
  await expect(region(laptop, 'Devices that are in')).toContainText('Isolde, by passkey')
  await laptop.getByRole('button', { name: /^Forget the passkey/ }).click()
  await expect(region(laptop, 'This sign-in')).not.toContainText('for localhost')
  await laptop.getByRole('button', { name: 'Sign out' }).click()
  await laptop.getByRole('button', { name: 'Come in by a passkey' }).click()
  await expect(laptop.getByText('This passkey is not known here')).toBeVisible()

  await laptop.getByRole('button', { name: 'The password is forgotten' }).click()
  await door(laptop).getByLabel('Name').fill('Isolde')
  await laptop.getByLabel('Recovery code').fill(codes[0]!.toUpperCase())
  await laptop.getByLabel('New password').fill('a heron on the far bank')
  await laptop.getByRole('button', { name: 'Set it and come in' }).click()
  await expect(region(laptop, 'Devices that are in')).toContainText('by a recovery code')
  await expect(page.getByText('Who is there?')).toBeVisible()
  await laptop.context().close()
})
