import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { everyTest, type Scene } from './scene'

let service: Scene['service']
let page: Page
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page } = scene))

const button = (name: string | RegExp) => page.getByRole('button', { name })

test('a reading that the machine sends is on the page by itself', async () => {
  await page.goto('/orders/108')
  await button('Make a code').click()
  const code = (await page.getByLabel('Code').textContent())!
  await page.getByText(`/c/${code} | sudo sh`).waitFor()
  await button('Windows').click()
  await page.getByText(`/c/${code}/windows | iex`).waitFor()
  await service.post('dummies/nm2/acts', { act: 'start' })
  await service.post('dummies/nm2/send', { code })
  await page.locator('.order-head').getByText('measured').waitFor()
  await page.getByText('sources disagree').waitFor()
  // The dummy is another machine than the one that was taken in: somebody says which of the two is wrong.
  const doubts = page.getByRole('group', { name: 'Doubts' })
  await doubts.getByText('It tells the serial').waitFor()
  expect(await page.getByRole('link', { name: 'Plan it' }).count()).toBe(0)
  await doubts.getByLabel('Why the reading is of this machine').fill('the label is of the old case')
  await button('It is right').click()
  await page.getByRole('link', { name: 'Plan it' }).waitFor()
}, 60_000)

test('the swap test is done on the page, to its conclusion', async () => {
  await page.goto('/orders/119')
  const swap = page.getByRole('region', { name: 'Swap test' })
  await swap.getByText('the module of B1').first().waitFor()
  expect(await swap.getByRole('button', { name: 'It did not start' }).isDisabled()).toBe(true)
  await swap.getByLabel('Power was off the board before hands went in').check()
  await swap.getByRole('button', { name: 'A2 seen' }).click()
  await swap.getByRole('button', { name: /^Only (B2, A1|A1, B2) seen$/ }).click()
  await swap.getByText('It is the module of B1.').waitFor()
  expect(await faults(page)).toEqual([])
  // It lay open until now: what came out is counted back, and one too few is asked about.
  const end = swap.getByRole('button', { name: 'End the swap test' })
  expect(await end.isDisabled()).toBe(true)
  await swap.getByLabel('left side panel, 2 out').fill('1')
  await swap.getByLabel('Where the missing one is').waitFor()
  await swap.getByLabel('left side panel, 2 out').fill('2')
  await end.click()
  await page.getByText('Set the module of B1 aside as faulty, and fit another.').first().waitFor()
  // What it named stands in the form: one press begins the run that changes it.
  expect(await page.getByLabel('Slot', { exact: true }).inputValue()).toBe('B1')
  expect(await faults(page)).toEqual([])
  await page.getByRole('button', { name: 'Change it' }).click()
  await page.locator('.order-head').getByText('on bench').waitFor()
}, 60_000)

test('a finding starts its own action, and tells the customer’s words', async () => {
  await page.goto('/orders/103/check')
  const finding = page.getByLabel('Findings').getByRole('listitem').first()
  await finding.getByText('16 GB short. S3 not seen.').waitFor()
  await finding.locator('summary').click()
  await finding.getByText('One module is not seen yet').waitFor()
  expect(await faults(page)).toEqual([])
  const taken = page.waitForResponse((r) => r.url().endsWith('/orders/103/reseat'))
  await finding.getByRole('button', { name: 'Reseat S3' }).click()
  expect((await taken).ok()).toBe(true)
  await page.goto('/orders/103')
  await page.locator('.order-head').getByText('on bench').waitFor()
}, 60_000)

test('a watched machine is asked about, and the day is kept', async () => {
  await page.goto('/orders/120')
  await page.getByLabel('What was seen').selectOption('freeze')
  await page.getByLabel('In words').fill('once, at noon')
  await button('Note it').click()
  await page.locator('.watch-days').getByText('it froze').waitFor()
  await page.getByLabel('Outcome').selectOption('came-back')
  await page.getByLabel('In words').fill('the second time')
  await button('End the watch').click()
  await page.locator('.order-head').getByText('checking').waitFor()
}, 60_000)

test('a dummy is opened, refitted badly and started', async () => {
  await page.goto('/dummies')
  await button(/^fj14/).click()
  await button('Open it').click()
  await button('Close it').waitFor()
  const done = () => page.waitForResponse((r) => r.url().includes('/acts'))
  await Promise.all([done(), page.getByLabel('Hands at S1').selectOption('fit 16')])
  await Promise.all([done(), page.getByLabel('Seat in S1').selectOption('askew')])
  await button('Start it').click()
  await page.getByText('It does not start: 3 short beeps').waitFor()
  await Promise.all([done(), page.getByLabel('Seat in S1').selectOption('home')])
  await button('Start it').click()
  await page.getByText('It starts: 24 GB').waitFor()
  expect(await faults(page)).toEqual([])
}, 60_000)

test('a score is written down and compared', async () => {
  await page.goto('/orders/120')
  await page.locator('#scores summary').first().click()
  await page.getByText('+25.8 % better').waitFor()
  await page.getByText('-13.5 % better').waitFor()
  await page.getByText('fewer than five').first().waitFor()
}, 60_000)
