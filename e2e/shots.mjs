// Takes the pictures of docs/screenshots from the demo data.
// usage: node shots.mjs [folder] [only-this-name …]
import { chromium } from '@playwright/test'
import { choose } from './fields.mjs'
import { startStudio } from './studio.mjs'
import { mkdirSync } from 'node:fs'

const [folder = '../docs/screenshots', ...only] = process.argv.slice(2)
mkdirSync(folder, { recursive: true })

const studio = await startStudio({ port: 8431, at: '2027-05-04T10:26:00Z', backups: true })
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox', '--disable-background-networking', '--disable-component-update', '--disable-sync'] })

async function shoot(name, path, { width = 1280, height = 800, before, full = false } = {}) {
  if (only.length && !only.includes(name)) return
  const page = await browser.newPage({ viewport: { width, height } })
  page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log(name, m.text()))
  await page.goto(studio.url + path)
  await page.waitForLoadState('networkidle')
  if (before) await before(page)
  await page.mouse.move(2, height - 2) // what the pointer would be told of is no part of a picture
  await page.screenshot({ animations: 'disabled', path: `${folder}/${name}.png`, fullPage: full })
  await page.close()
}

try {
  await shoot('today', '/')
  await shoot('today-phone', '/', { width: 390, height: 844 })
  await shoot('plan', '/plan', {
    before: async (page) => {
      await page.getByRole('button', { name: 'What if …' }).click()
      await page.getByRole('button', { name: 'Somebody comes in' }).click()
      await page.getByText('as it is').waitFor()
      await page.getByRole('button', { name: 'Make it so', disabled: false }).waitFor()
    },
  })
  await shoot('orders', '/orders', {
    before: async (page) => {
      await page.getByRole('button', { name: 'New order' }).click()
      await page.getByLabel('Customer').fill('Tern Boathouse')
      await choose(page.getByLabel('Product'), 'Crew ornament')
      await page.getByLabel(/^Lettering/).fill('Bow · Marit\nTwo · Osric\nThree · Fenna\nFour · Ludo')
      await page.getByText(/An hour earns/).waitFor()
      await page.locator('.el-select-dropdown').waitFor({ state: 'hidden' })
      await page.waitForLoadState('networkidle')
    },
  })
  await shoot('order', '/orders', {
    before: async (page) => {
      await page.getByRole('button', { name: /Withy Rowing Club/ }).first().click()
      await page.getByText('What happened').waitFor()
    },
  })
  await shoot('batch', '/plan?tray=new-batch', { before: (page) => page.getByText('Serves').waitFor() })
  await shoot('prints', '/prints/design/1')
  await shoot('products', '/products')
  await shoot('product', '/products/2')
  await shoot('recipe', '/products/17', {
    height: 1000,
    before: async (page) => {
      await page.getByRole('button', { name: /^Clear wax: / }).click()
      await page.getByText('What it uses').waitFor()
    },
  })
  await shoot('costs', '/products/1/costs?beside=12', {
    height: 1100,
    before: async (page) => {
      await page.getByRole('button', { name: /^Soak and lay the decal/ }).click()
      await page.getByRole('button', { name: /^Soak and lay the decal/, expanded: true }).waitFor()
      await page.evaluate(() => window.scrollTo(0, 0))
    },
  })
  await shoot('prices', '/products/prices')
  await shoot('shelf', '/stores?view=shelf&tray=shelf:10', { before: (page) => page.getByText('Found and gone').waitFor() })
  await shoot('health', '/workshop/health', {
    before: async (page) => {
      await page.getByRole('button', { name: 'Back up now' }).click()
      await page.getByRole('heading', { name: 'All is well', exact: true }).waitFor()
    },
  })
  await shoot('stores', '/stores?tray=material:5', { before: (page) => page.getByText('What is left, in order of use').waitFor() })
  await shoot('chooser', '/products/new', {
    before: async (page) => {
      await choose(page.getByLabel('Made of'), 'coated metal')
      await page.getByRole('radio', { name: 'dark' }).check()
      await choose(page.getByLabel('Shape'), 'upright and round')
      await page.getByLabel('Across').fill('80 mm')
      await page.getByLabel('Height', { exact: true }).fill('170 mm')
      await page.getByLabel(/White in it/).check()
      await page.getByRole('heading', { name: 'Decal, face up' }).waitFor()
      await page.locator('.el-select-dropdown').waitFor({ state: 'hidden' })
      await page.evaluate(() => window.scrollTo(0, 0))
    },
  })
  await shoot('library', '/products/library', {
    before: async (page) => {
      await page.getByRole('button', { name: 'Gel-medium lift' }).click()
    },
  })
  await shoot('guide', '/notebook?product=1&sign=lifted', { before: (page) => page.getByText('Change the recipe so').waitFor() })
  await shoot('workshop', '/workshop#room', { before: (page) => page.getByText('Simulate a rainy spell').waitFor() })
} finally {
  await browser.close()
  await studio.stop()
}
