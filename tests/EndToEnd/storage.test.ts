import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { doUpTo, everyTest, type Scene } from './scene'

let service: Scene['service']
let page: Page
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page } = scene))

const button = (name: string | RegExp) => page.getByRole('button', { name })

test('memory and a larger drive are planned together, and share one opening', async () => {
  await page.goto('/orders/107/plan')
  await button(/Add 4 × 16 GB/).click()
  await page.getByRole('tab', { name: 'Drives' }).click()
  await page.getByText('F1 is 92 % full: 463 GB of 500 GB are in use.').first().waitFor()
  await button(/1 TB \(BN-1T\) replaces 500 GB in F1/).click()
  // Both stand in the plan: eight modules, and the drive's data is copied first.
  await page.getByLabel('Running total').getByText('128 GB', { exact: true }).waitFor()
  expect(await page.getByLabel('The data').inputValue()).toBe('copy-first')
  expect(await page.getByLabel('What A2 gets').inputValue()).toBe('fit')
  await page.getByText(/plan leaves it so/).waitFor({ state: 'detached' })
}, 60_000)

test('a nearly full drive is noted for a later visit with one press, and found by its words', async () => {
  await page.goto('/')
  await page.getByRole('link', { name: /^107/ }).getByText('F1 92 % full').waitFor()
  await page.goto('/orders/107')
  await page.getByRole('link', { name: 'Note a later visit' }).click()
  await page.getByLabel('A note beside it').fill('after the survey')
  await button(/1 TB \(BS-1T\) comes into F2, empty/).click()
  await page.getByText('A later visit is noted.').waitFor()
  await page.goto('/')
  await page.getByRole('searchbox').fill('the survey')
  await page.locator('.found').getByRole('link', { name: /^107/ }).waitFor()
  await page.getByText('F1 92 % full').waitFor({ state: 'detached' })
  expect(await faults(page)).toEqual([])
}, 60_000)

test('load before and after is drawn on the same axes, with its peak', async () => {
  await page.goto('/orders/102#scores')
  const before = page.getByRole('figure', { name: 'Load before' })
  await before.getByText('peak 7.3 GB').waitFor()
  await before.getByText('8 GB installed').waitFor()
  await page.getByRole('figure', { name: 'Load after' }).getByText('peak 9.9 GB').waitFor()
  // One axis for both: what reaches up to 16 GB after does so before too.
  await before.getByText('16 GB', { exact: true }).waitFor()
  await page
    .getByRole('region', { name: 'The trial' })
    .getByText(/12 min/)
    .waitFor()
  expect(await faults(page)).toEqual([])
}, 60_000)

test('a sign that is pressed says what it means here, and begins the reseat of these slots', async () => {
  await doUpTo(service, 104, 'start.power-on')
  await page.goto('/orders/104/run')
  await button(/a light at the board's corner stays on/).click()
  const answer = page.locator('.sign-answer')
  await answer.getByText(/Off, unplugged, drained; then seat/).waitFor()
  await answer.getByRole('button', { name: /^Begin the reseat of/ }).click()
  await page.getByRole('heading', { name: 'Lay out mat, strap and trays' }).waitFor()
  await page.getByText(/reseat of A1, B1/).waitFor()
}, 60_000)
