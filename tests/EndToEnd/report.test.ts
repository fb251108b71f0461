import { readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { everyTest, type Scene } from './scene'

let page: Page
let open: Scene['open']
everyTest({ width: 1280, height: 800 }, (scene) => ({ page, open } = scene))

const section = () => page.locator('#report')
const make = async () => {
  await page.goto('/orders/102#report')
  await section().getByText('Nothing vouches for it yet').waitFor()
  await section().getByRole('button', { name: 'Make the report' }).click()
  await section().getByText('Proof 102-').waitFor()
}

test('a report is made, read on the telephone, and made anew after the hand-back', async () => {
  await make()
  expect(await faults(page)).toEqual([])
  await section().getByRole('button', { name: 'Make a link for the customer' }).click()
  const link = new URL((await section().locator('.link-once').textContent())!).pathname
  const phone = await open('', { width: 390, height: 800 })
  await phone.goto(link)
  await phone.getByRole('heading', { name: 'Norrland Fjell 14' }).waitFor()
  await phone.getByText('8 GB before').waitFor()
  await phone.getByText('Tried a whole plate, opened and turned for 12 min: as wished.').waitFor()
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  expect(await faults(phone)).toEqual([])

  await page.goto('/orders/102')
  await page.getByLabel('Who takes it').fill('A. Pressel')
  await page.getByRole('button', { name: 'Hand it back' }).click()
  await page.locator('.order-head').getByText('handed back', { exact: true }).waitFor()
  await page.goto('/orders/102#report')
  await section().getByText('More was recorded since it was made').waitFor()
  await section().getByRole('button', { name: 'Make it anew' }).click()
  await section().getByText('More was recorded').waitFor({ state: 'detached' })
})

test('whoever holds a proof sees whether it is genuine, and one changed letter is seen', async () => {
  await make()
  const id = (await section().locator('b.mono').first().textContent())!
  const [proof] = await Promise.all([
    page.waitForEvent('download'),
    section().getByRole('link', { name: 'Its proof' }).click(),
  ])
  const file = join(tmpdir(), `${id}.jws`)
  await proof.saveAs(file)

  const stranger = await open('', { width: 1280, height: 800 })
  await stranger.goto('/proof')
  await stranger.getByLabel("Choose the proof's file").setInputFiles(file)
  await stranger.getByText('✓ Signed by Saltmarsh Road, and unchanged since.').waitFor()
  await stranger.getByText('Letterpress printer').waitFor()
  expect(await faults(stranger)).toEqual([])

  const text = readFileSync(file, 'utf8')
  const at = text.indexOf('.') + 30
  writeFileSync(file, text.slice(0, at) + (text[at] === 'A' ? 'B' : 'A') + text.slice(at + 1))
  await stranger.getByLabel("Choose the proof's file").setInputFiles(file)
  await stranger.getByText('believe nothing of it').waitFor()
  expect(await stranger.getByText('Letterpress printer').count()).toBe(0)

  await stranger.getByLabel('Or its id').fill(id.toLowerCase())
  await stranger.getByRole('button', { name: 'Look' }).click()
  await stranger.getByRole('heading', { name: 'This proof is genuine' }).waitFor()
  // Whoever knows the id alone learns nothing of the customer.
  expect(await stranger.getByText('Letterpress').count()).toBe(0)
  expect(await faults(stranger)).toEqual([])
})

test('an invoice is made, paid, and taken back at the counter', async () => {
  const invoice = page.locator('#invoice')
  await page.goto('/orders/102#invoice')
  await invoice.getByText('It has no number yet').waitFor()
  await invoice.getByText('Extra work that was agreed').click()
  await invoice.getByLabel('What is done').fill('New rubber feet')
  await invoice.getByLabel('Price without tax').fill('8.50')
  await invoice.getByLabel('Who agreed').fill('A. Pressel')
  await invoice.getByRole('button', { name: 'Add it' }).click()
  await invoice.getByRole('button', { name: 'Charge it not' }).waitFor()
  await invoice.getByRole('button', { name: 'Make the invoice' }).click()
  await invoice.getByText('Invoice 1', { exact: true }).waitFor()
  await invoice.getByRole('cell', { name: /^New rubber feet, agreed .* by A. Pressel$/ }).waitFor()
  expect(await faults(page)).toEqual([])
  await invoice.getByRole('button', { name: 'Take it down' }).click()
  await invoice.getByText('✓ All is paid').waitFor()
  await invoice.getByText('Take the invoice back').click()
  await invoice.getByLabel('Why').fill('the feet were ours')
  await invoice.getByRole('button', { name: 'Take it back' }).click()
  await invoice.getByText('Would be left to pay').waitFor()

  await page.goto('/invoices')
  await page.getByRole('row', { name: /takes 1 back/ }).waitFor()
  expect(await faults(page)).toEqual([])
})
