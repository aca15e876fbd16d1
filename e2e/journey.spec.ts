import { expect, type Page } from '@playwright/test'
import { card, done, promise, ready, resting, spoil, takeUp } from './bench'
import { test } from './device'
import { choose, setDay, setTime } from './fields.mjs'
import { startStudio } from './studio.mjs'

type Studio = Awaited<ReturnType<typeof startStudio>>

const names = ['Bow · Alder', 'Two · Briar', 'Three · Cress', 'Four · Dock', 'Five · Elder', 'Six · Fern', 'Seven · Gorse', 'Eight · Hazel', 'Nine · Ivy', 'Ten · Juniper', 'Eleven · Kelp', 'Twelve · Larch']
const twelve = '12 × Crew ornament'
const two = '2 × Crew ornament'

async function at(page: Page, studio: Studio, time: string, path = '/') {
  studio.setClock(`2027-05-${time}:00Z`)
  await page.goto(studio.url + path)
}

test('from one order to a finished piece', async ({ page }) => {
  test.setTimeout(300_000) // a week of work, one tap after the other
  const studio = await startStudio({ port: 8450, at: '2027-05-04T10:26:00Z' })
  try {
    await test.step('Today shows what is in hand, ready and resting, under the day ribbon', async () => {
      await page.goto(studio.url)
      await expect(card(page, 'Clear the paper, first round')).toBeVisible()
      await expect(page.getByRole('timer')).toContainText(/0:2[67]:\d\d/)
      await expect(page.getByText(/second coat, by \d\d:\d\d tomorrow/)).toBeVisible()
      await expect(page.getByText('ready 10:51')).toBeVisible()
      await expect(page.getByRole('group', { name: /^Today from five/ }).getByRole('button').first()).toBeVisible()
      await done(page, 'Clear the paper, first round')
    })
    await test.step('an order says what it costs and whether its date can be held', () => takeTheOrder(page))
    await test.step('open demand becomes a batch, and stands on the plan', () => makeUpTheBatch(page))
    await test.step('it is worked on Today', () => workTheBatch(page, studio))
    await test.step('kill -9 of server and database loses nothing, running timers included', async () => {
      await at(page, studio, '05T11:10')
      await takeUp(page, 'Clear the paper, second round', '11 × Crew ornament')
      // Only what was acknowledged is promised to be there afterwards.
      const acknowledged = page.waitForResponse((r) => r.url().endsWith('/ticked') && r.status() === 204)
      await page.getByLabel('Fingertips, hardly damp').check()
      await acknowledged
      await studio.kill()
      await studio.start()
      await page.reload()
      await expect(card(page, 'Clear the paper, second round')).toBeVisible()
      await expect(page.getByLabel('Fingertips, hardly damp')).toBeChecked()
      await expect(page.getByRole('timer')).toHaveText(/0:0\d:\d\d/)
      await expect(card(page, 'Clear the paper, second round').getByRole('button', { name: 'Put down' })).toBeVisible()
      await done(page, 'Clear the paper, second round')
    })
    await test.step('the last step makes the pieces ready', async () => {
      await finish(page, studio, '11 × Crew ornament', ['05T13:40', '06T09:30', '06T12:40', '06T13:10', '07T09:30'])
    })
    await test.step('the spoiled name is made again, and the order is handed over', () => remakeAndHandOver(page, studio))
  } finally {
    await studio.stop()
  }
})

async function takeTheOrder(page: Page) {
  await page.getByRole('link', { name: 'Orders' }).first().click()
  await page.getByRole('button', { name: 'New order' }).click()
  await page.getByLabel('Customer').fill('Sedge Island Scouts')
  await choose(page.getByLabel('Product'), 'Crew ornament')
  await page.getByLabel(/^Lettering/).fill(names.slice(0, 11).join('\n'))
  await page.getByLabel('Pieces', { exact: true }).fill('12')
  await setDay(page.getByLabel('Due on'), '2027-05-05')
  await expect(page.getByRole('heading', { name: /^Not before / })).toBeVisible()
  await setDay(page.getByLabel('Due on'), '2027-05-12')
  await expect(page.getByRole('heading', { name: /^Ready .* to spare$/ })).toBeVisible()
  const { perPiece } = await (await page.request.get(new URL('/api/products/1/costs?pieces=12', page.url()).href)).json()
  await expect(page.getByText(`12 × Crew ornament at 15.50, costs you ${Number(perPiece.total).toFixed(2)} each`)).toBeVisible()
  await expect(page.getByText('An hour earns')).toBeVisible()

  await promise(page)
  await expect(page.getByText('12 pieces, but 11 lines of lettering').first()).toBeVisible()
  await expect(page.getByLabel(/^Lettering/)).toHaveValue(/Eleven · Kelp/)
  await page.getByLabel(/^Lettering/).fill(names.join('\n'))
  await promise(page)
  await expect(page.getByRole('heading', { name: 'Sedge Island Scouts' })).toBeVisible()
  await expect(page.getByText('12 not begun').first()).toBeVisible()
}

async function makeUpTheBatch(page: Page) {
  await page.getByRole('button', { name: 'Make up a batch' }).click()
  await expect(page.getByLabel('Pieces to start')).toHaveValue('12')
  await page.getByLabel('Pieces to start').fill('12')
  await expect(page.getByText('12 for Sedge Island Scouts')).toBeVisible()
  await expect(page.getByLabel('In lots of')).toHaveValue('1 + 11')
  await page.getByLabel('One pilot piece through removal first').uncheck()
  await expect(page.getByLabel('In lots of')).toHaveValue('12')
  await page.getByRole('button', { name: 'Start 12 in one lot' }).click()
  await expect(page.getByText(/Batch \d+ made up/)).toBeVisible()
  const bar = page.getByRole('button', { name: /Sand, 12 pieces of Crew ornament, Sand and wipe, .*planned/ }).first()
  await expect(bar).toBeVisible()
  await bar.click()
  const tray = page.getByRole('complementary', { name: 'Lot' })
  await expect(tray.getByText('Why then?')).toBeVisible()
  await expect(tray.getByRole('button', { name: 'Sedge Island Scouts 12' })).toBeVisible()
}

async function workTheBatch(page: Page, studio: Studio) {
  await page.goto(studio.url)
  await takeUp(page, 'Sand and wipe', twelve)
  await card(page, 'Sand and wipe').getByRole('button', { name: 'Put down' }).click()
  await expect(card(page, 'Sand and wipe')).toContainText('put down')
  await card(page, 'Sand and wipe').getByRole('button', { name: 'Go on' }).click()
  await page.getByLabel('Sand with the grain until it feels even').check()
  await done(page, 'Sand and wipe')

  // Done is undone, and done again.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(card(page, 'Sand and wipe')).toContainText('put down')
  await expect(page.getByLabel('Sand with the grain until it feels even')).toBeChecked()
  await done(page, 'Sand and wipe')

  // Under the floor it is stopped with the reason.
  await takeUp(page, 'Base coat', twelve)
  await done(page, 'Base coat')
  await resting(page, twelve).getByRole('button', { name: /^Begin early/ }).click()
  await expect(page.getByRole('dialog')).toContainText('needs at least 20 min')
  await page.getByRole('button', { name: 'Let it rest' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)

  // The risk can be accepted, and is recorded.
  await resting(page, twelve).getByRole('button', { name: /^Begin early/ }).click()
  await page.getByRole('button', { name: 'I accept the risk' }).click()
  await expect(card(page, 'Base coat, second')).toContainText(/Begun \d+ min under the rest’s floor/)
  await done(page, 'Base coat, second')
  await takeUp(page, 'Print and trim', twelve)
  await done(page, 'Print and trim')

  // The lay is entered late, with its true time; its rest follows that.
  await at(page, studio, '04T11:40')
  await takeUp(page, 'Lay', twelve)
  await at(page, studio, '04T14:00')
  await card(page, 'Lay').getByRole('button', { name: 'It was done earlier' }).click()
  await setTime(card(page, 'Lay').getByLabel('It was done at: time'), '12:30')
  await done(page, 'Lay')
  await expect(resting(page, twelve)).toContainText('ready 20:30')

  // A name is spoiled, and is wanted again at once.
  await at(page, studio, '05T09:30')
  await takeUp(page, 'Clear the paper, first round', twelve)
  await spoil(page, 'Clear the paper, first round', 'Nine · Ivy', 'lifted at the rim')
  await done(page, 'Clear the paper, first round')
  await expect(page.getByText('2 × Crew ornament wanted')).toBeVisible()
}

// finish works a lot from the look at it to the packing.
async function finish(page: Page, studio: Studio, pieces: string, times: [string, string, string, string, string]) {
  const steps = [['Look and decide', 'Touch up', 'Seal, first coat'], ['Seal, second coat'], ['Drill the hanging hole'], ['String and knot', 'Set out to cure'], ['Pack']]
  for (const [i, sitting] of steps.entries()) {
    await at(page, studio, times[i]!)
    for (const step of sitting) {
      await takeUp(page, step, pieces)
      await done(page, step)
    }
  }
}

async function remakeAndHandOver(page: Page, studio: Studio) {
  await page.getByRole('button', { name: 'Make up a batch' }).first().click()
  await expect(page.getByText('1 for Sedge Island Scouts')).toBeVisible()
  await page.getByRole('button', { name: 'Start 2 in one lot' }).click()
  await expect(page.getByText(/Batch \d+ made up/)).toBeVisible()

  const early: [string, string][] = [['07T09:40', 'Sand and wipe'], ['07T09:50', 'Base coat'], ['07T10:40', 'Base coat, second'], ['07T10:50', 'Print and trim'], ['07T12:20', 'Lay'], ['10T09:10', 'Clear the paper, first round'], ['10T10:30', 'Clear the paper, second round']]
  for (const [time, step] of early) {
    await at(page, studio, time)
    await takeUp(page, step, two)
    await done(page, step)
  }
  await finish(page, studio, two, ['10T12:00', '10T14:30', '11T09:10', '11T09:40', '12T09:10'])

  const over = page.getByRole('listitem').filter({ hasText: '12 finished for Sedge Island Scouts' })
  await over.getByRole('button', { name: /^Hand over/ }).click()
  await page.getByRole('complementary', { name: 'Order' }).getByRole('button', { name: 'Hand over' }).click()
  const tray = page.getByRole('complementary', { name: 'Order' })
  await expect(tray.getByText('Handed over.')).toBeVisible()
  for (const happened of ['Order taken, due Wednesday 12 May', '“Nine · Ivy” spoiled (lifted at the rim)', 'at accepted risk', 'Handed over to Sedge Island Scouts']) {
    await expect(tray.getByText(happened).first()).toBeVisible()
  }
}

test('a spare good piece fills the next order of the same plain thing', async ({ page }) => {
  const studio = await startStudio({ port: 8453, at: '2027-05-04T10:26:00Z' })
  try {
    await page.goto(`${studio.url}/orders`)
    await page.getByRole('button', { name: /Single: first lamp-night/ }).click()
    const tray = page.getByRole('complementary', { name: 'Order' })
    await tray.getByRole('button', { name: 'Change' }).click()
    await tray.getByRole('button', { name: 'Cancel the order' }).click()
    await page.getByRole('dialog').getByRole('button', { name: 'Cancel the order' }).click()
    await expect(tray.getByText('Cancelled.')).toBeVisible()

    await page.goto(`${studio.url}/orders?tray=new-order`)
    await page.getByLabel('Customer').fill('Harbour lamp society')
    await choose(page.getByLabel('Product'), 'Lamp-night ornament')
    await setDay(page.getByLabel('Due on'), '2027-05-14')
    await expect(page.getByRole('heading', { name: 'Ready now, from the shelf' })).toBeVisible()
    await promise(page)
    await expect(page.getByText('1 piece taken from the shelf')).toBeVisible()
    await expect(page.getByRole('complementary', { name: 'Order' }).getByRole('button', { name: 'Hand over' })).toBeVisible()
  } finally {
    await studio.stop()
  }
})
