import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { doUpTo, everyTest, type Scene } from './scene'

let service: Scene['service']
let page: Page
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page } = scene))

const button = (name: string | RegExp) => page.getByRole('button', { name })

test('a cleaning is planned at its price, and what the maker asks stands beside an option', async () => {
  await page.goto('/orders/107/plan')
  await button(/Add 4 × 16 GB/).click()
  const total = page.getByLabel('Running total')
  const cost = async () => Number((await total.getByText(/EUR/).innerText()).replace(/[^\d.]/g, ''))
  await total.getByText(/EUR/).waitFor()
  await page.waitForLoadState('networkidle')
  const before = await cost()
  await page.getByLabel(/cleaning, 18.00/).check()
  await page.waitForFunction((was) => !document.body.innerText.includes(was), `${before.toFixed(2)} EUR`)
  expect(await cost()).toBe(before + 18)
  await page
    .getByText(/elsewhere 236.00/)
    .first()
    .waitFor()
  await button('Set the plan').click()
  await page.getByRole('cell', { name: 'Cleaning inside' }).waitFor()
  await page
    .getByText(/The machine maker's list asked 236.00 EUR for Four 16 GB tower modules, a kit/)
    .waitFor()
  expect(await faults(page)).toEqual([])
}, 60_000)

test('what is looked at is left with why, and it is cleaned before anything is fitted', async () => {
  const changes = [
    { slot: 'A1', inspect: true },
    { slot: 'A2', fit: { size: 17179869184, generation: 'DDR4', form: 'DIMM', partNumber: 'OS4U-16G' } },
  ]
  await service.post('orders/107/plan', { changes, cleans: true })
  await service.post('orders/107/agreement', { customer: 'K. Vogel' }, 'sanne')
  await doUpTo(service, 107, 'look.A1')
  await page.goto('/orders/107/run')
  await page.getByRole('heading', { name: 'Look at A1' }).waitFor()
  await button('Done').click()
  await page.getByRole('alert').getByText('Say with a note what you saw at A1').waitFor()
  await page.getByLabel('What you saw at A1, and why it stays').fill('no dust, both latches whole')
  await button('Done').click()
  await page.getByRole('heading', { name: 'Clean it inside' }).waitFor()
  await button('Found').click()
  await page.getByLabel('What was found').selectOption('left-alone')
  await page.getByLabel('Which, and why it stays').fill('the fan: turns freely')
  await button('Record it').click()
  await page.getByText('looked at and left, the fan: turns freely').waitFor()
  await button('Done').click()
  await page.getByRole('heading', { name: 'Fit 16 GB into A2' }).waitFor()
}, 60_000)

test('what came out gets a bag, and its code opens the order again', async () => {
  await page.goto('/orders/103')
  await page.getByRole('heading', { name: 'Hand back' }).click()
  await page.getByText('103-S1').waitFor()
  await page
    .getByText(/^bag 103-S1/)
    .getByText('shelf 2, with the mains adapter')
    .waitFor()
  await button('Say where it lies').click()
  await page.getByLabel('Where bag 103-S3 lies').fill('drawer 4')
  await button('It lies there').click()
  await page.getByText('drawer 4', { exact: false }).first().waitFor()
  expect(await faults(page)).toEqual([])
  const labels = page.waitForEvent('popup')
  await page.getByRole('link', { name: 'Labels for the bags' }).click()
  await (await labels).close()

  await page.goto('/')
  await page.getByRole('heading').first().waitFor()
  await page.locator('body').click({ position: { x: 2, y: 2 } })
  await page.keyboard.type('revtal:bag:103-S3', { delay: 2 })
  await page.keyboard.press('Enter')
  await page.getByRole('heading', { name: 'Hand back' }).click()
  await page.getByText('103-S3').waitFor()
}, 60_000)
