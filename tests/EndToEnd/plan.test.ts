import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { everyTest, type Scene } from './scene'

let service: Scene['service']
let page: Page
let open: Scene['open']
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page, open } = scene))

const button = (name: string | RegExp) => page.getByRole('button', { name })
const total = () => page.getByLabel('Running total')

test('a module is dragged into a slot, seen at once, and set', async () => {
  await page.goto('/orders/107/plan')
  await page.getByRole('tab', { name: 'Shelf' }).click()
  const part = button(/^16 GB tower module/)
  await part.waitFor()
  await part.dragTo(page.getByRole('list', { name: 'Slots' }).getByRole('listitem').nth(1))
  await total().getByText('80 GB', { exact: true }).waitFor()
  expect(await page.getByLabel('What A2 gets').inputValue()).toBe('fit')
  await button('Set the plan').click()
  await page.locator('.order-head').getByText('planned').waitFor()
  await page.getByRole('heading', { name: 'Customer’s word' }).waitFor()
}, 60_000)

test('what is looked for on the shelf moves nothing that lies below it', async () => {
  await page.goto('/orders/107/plan')
  await page.getByRole('tab', { name: 'Shelf' }).click()
  await button(/^16 GB tower module/).waitFor()
  const below = async () => (await page.getByText('Not in the catalogue').boundingBox())!.y
  const before = await below()
  await page.getByLabel('Find a part').fill('no such part')
  await page.getByText('The catalogue has nothing like').waitFor()
  expect(await below()).toBe(before)
})

test('keys alone take a module up, put it down, and let it go', async () => {
  await page.goto('/orders/107/plan')
  const held = button(/^A1: 16 GB/)
  await held.focus()
  await page.keyboard.press('Enter')
  await page.getByText('In the hand: the module of A1').waitFor()
  await page.keyboard.press('Escape')
  await total().getByText('before').waitFor()
  await held.focus()
  await page.keyboard.press('Enter')
  await button('Put it into B2').focus()
  await page.keyboard.press('Enter')
  await page.locator('.target-detail').getByText('from A1').waitFor()
  expect(await page.getByLabel('What B2 gets').inputValue()).toBe('from:A1')
}, 60_000)

test('what cannot go there goes back, and says why where it was put', async () => {
  await page.goto('/orders/117/plan')
  await page.getByRole('tab', { name: 'Shelf' }).click()
  await page.getByText('also what does not suit').click()
  await button(/^16 GB tower module/).click()
  await button('Put it into S1').click()
  await page.getByRole('alert').getByText('S1 takes a SO-DIMM; this module is a DIMM.').waitFor()
  expect(await page.getByLabel('What S1 gets').inputValue()).toBe('keep')
  // A drive does not go into a slot, nor a module into a bay.
  await button(/^2 TB drive/).click()
  expect(await button('Put it into S1').isDisabled()).toBe(true)
  expect(await button('Put it into D1').isEnabled()).toBe(true)
}, 60_000)

test('an option is taken with one press, and a budget changes what is offered', async () => {
  await page.goto('/orders/107/plan')
  await button(/Add 4 × 32 GB/).click()
  await total().getByText('192 GB', { exact: true }).waitFor()
  await total().getByText('equal').waitFor()
  await page.getByLabel('Budget for parts').fill('130')
  await expect.poll(() => button(/Add 4 × 32 GB/).count()).toBe(0)
  await page.getByLabel('Budget for parts').fill('1')
  await page.getByText('Raise the budget').waitFor()
}, 60_000)

test('the customer agrees on a telephone, and the order page shows it', async () => {
  await page.goto('/orders/106')
  await button('Make a link for the customer').click()
  const link = await page.locator('.link-once').textContent()
  const phone = await open('', { width: 390, height: 844 })
  await phone.goto(new URL(link!).pathname)
  await phone.getByRole('heading', { name: 'What it costs' }).waitFor()
  expect(await faults(phone)).toEqual([])
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await phone.getByLabel('Your name').fill('H. Ringel')
  await phone.getByRole('button', { name: 'Agree' }).click()
  await phone.getByText('You agreed').waitFor()
  await phone.context().close()
  await page.locator('.order-head').getByText('agreed', { exact: true }).waitFor()
  await page.locator('#customer').getByText('H. Ringel').first().waitFor()
}, 60_000)

test('a copy is told how far it is, and compared', async () => {
  await page.goto('/orders/117')
  await page.locator('#plan summary').first().click()
  await page.getByLabel('Copied so far').fill('300 GB')
  await button('So much is copied').click()
  await page.getByText('300 GB of 462 GB').waitFor()
  const list = (hash: string) => ({
    name: 'hashes.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from(`${'a'.repeat(64)}  one\n${hash.repeat(64)}  two\n`),
  })
  await page.getByLabel('Hashes of the old one').setInputFiles(list('b'))
  await page.getByLabel('Hashes of the new one').setInputFiles(list('c'))
  await button('Compare the lists').click()
  await page.getByText('✕ 2 of 2 files, 1 of 2 hashes alike').waitFor()
  for (const [label, value] of Object.entries({
    'Files on the old one': '41204',
    'Files on the new one': '41204',
    'Hashes sampled': '200',
    'Hashes alike': '200',
  }))
    await page.getByLabel(label).fill(value)
  await button('They are compared').click()
  await page.getByText('✓ 41204 of 41204 files').waitFor()
}, 60_000)

test('parts are found by a scan, come in, and a file is told before it is taken', async () => {
  await page.goto('/parts')
  await page.getByLabel('Search the parts').fill('bs-1t')
  await page.getByRole('button', { name: 'BS-1T' }).click()
  await page.getByLabel('Serials, or how many').fill('BS1T-900 BS1T-901')
  await button('They come in').click()
  await page.getByText('BS1T-901').waitFor()
  await page.getByLabel('What becomes of BS1T-900').selectOption('faulty')
  await page.locator('.items span').getByText('faulty', { exact: true }).waitFor()
  await page.getByText('As a file').click()
  const file = (text: string) => ({
    name: 'parts.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(text),
  })
  const head = 'number,name,what,size,price\n'
  await page.getByLabel('Catalogue in').setInputFiles(file(`${head}N-1,New,module,13 GB,5\n`))
  await page.getByText('1 line cannot be used; nothing is changed.').waitFor()
  await page.getByLabel('Catalogue in').setInputFiles(file(`${head}N-1,New one,module,16 GB,5\n`))
  await button('Take it in').click()
  await page.getByText('1 changed, 0 stay.').waitFor()
}, 60_000)
