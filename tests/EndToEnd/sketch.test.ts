import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { capture, doUpTo, everyTest, stepsOf, type Scene } from './scene'

let service: Scene['service']
let page: Page
let open: Scene['open']
everyTest({ width: 800, height: 1280 }, (scene) => ({ service, page, open } = scene))

const button = (name: string | RegExp, on = page) =>
  on.getByRole('button', { name, exact: typeof name === 'string' })
const ids = async (order: number) => (await stepsOf(service, order)).map((s) => s.step.id)

// What the collector writes onto a stick.
const stick = () => ({
  name: 'machine.revtal',
  mimeType: 'application/json',
  buffer: Buffer.from(
    JSON.stringify({
      format: 'revtal-capture/1',
      files: capture('vm-before-4g').map((path) => ({
        name: basename(path),
        content: readFileSync(path).toString('base64'),
      })),
    }),
  ),
})

test('a machine that nobody knows is taken in from its own words', async () => {
  const desk = await open('sanne', { width: 1280, height: 800 })
  await desk.goto('/take-in')
  await desk.locator('.arrivals input[type=file]').setInputFiles(stick())
  // It fills in what it is; what was here before stands beside it.
  await desk.getByText('4 GB of memory, 1 of 1 slots filled').waitFor()
  expect(await desk.getByLabel('Serial').inputValue()).toBe('NF14-0417')
  await desk.getByRole('link', { name: 'order 101' }).waitFor()
  await button(/Norrland Fjell 14/, desk).waitFor()
  // What is typed against it is said at once.
  await desk.getByLabel('Serial').fill('NF14-0418')
  await desk.getByText('It tells the serial NF14-0417; NF14-0418 was written down at take-in.').waitFor()
  await desk.getByLabel('Serial').fill('NF14-0417')
  await desk.getByLabel('Model').selectOption('?')
  await desk.getByLabel('Maker').fill('Norrland')
  await desk.getByLabel('What stands on it').fill('Sund 9')
  await desk.getByLabel(/^Customer/).fill('Choir’s archive')
  await desk.getByLabel('Complaint').fill('slow')
  expect(await faults(desk)).toEqual([])
  await button('Take it in', desk).click()
  await desk.getByRole('heading', { name: /137 Norrland Sund 9/ }).waitFor()
  await desk.getByText('what is done here writes it').waitFor()
  const order = (await service.get('orders/137')) as { stage: string; positions: { slot: { id: string } }[] }
  expect(order.stage).toBe('measured')
  expect(order.positions.map((p) => p.slot.id)).toEqual(['S1'])
  // An empty slot that firmware leaves out is seen by somebody.
  await desk.getByText('A slot or bay more than it tells').click()
  await desk.getByLabel('Its name, as on the board').fill('S2')
  await button('It is a slot', desk).click()
  await desk
    .getByRole('alert')
    .getByText(/technician/)
    .waitFor()
  const bench = await open('mara', { width: 1280, height: 800 })
  await bench.goto('/orders/137')
  await bench.getByText('A slot or bay more than it tells').click()
  await bench.getByLabel('Its name, as on the board').fill('S2')
  await button('It is a slot', bench).click()
  await expect
    .poll(async () => ((await service.get('orders/137')) as typeof order).positions.map((p) => p.slot.id))
    .toEqual(['S1', 'S2'])
})

test('what comes off is said on the tablet, without a network too, and is the next guide', async () => {
  await page.goto('/orders/124/run')
  await page.getByRole('heading', { name: 'Open it until S2 lies open' }).waitFor()
  expect(await faults(page)).toEqual([])
  await page.context().setOffline(true)
  await button('shield').click()
  await button('How many: one more').click()
  await button('How many: one more').click()
  await button('T5').click()
  await page.getByLabel('Length in mm').fill('3')
  await button('The shield is off').click()
  await page.getByRole('status').getByText('1 kept here').waitFor()
  await page.context().setOffline(false)
  await expect.poll(() => ids(124)).toContain('open.shield')

  // Taken back and said again with what it was held by.
  await page.getByText('All steps').click()
  await button('Take it back').click()
  await expect.poll(() => ids(124)).not.toContain('open.shield')
  await button('shield').click()
  await button('How many: one more').click()
  await button('The shield is off').click()
  await expect.poll(() => ids(124)).toContain('open.shield')
  await button('S2 lies open').click()

  // At the slot, what is seen of it is pressed.
  await page.getByRole('heading', { name: 'Fit 16 GB into S2' }).waitFor()
  await button('25°').click()
  await page.locator('.seen .board-plate').click({ position: { x: 60, y: 40 } })
  await button('Write it into the sketch').click()
  await expect
    .poll(async () => {
      const { positions } = (await service.get('orders/124')) as {
        positions: { slot: { id: string; angle: number; at: object | null } }[]
      }
      const s2 = positions.find((p) => p.slot.id === 'S2')!.slot
      return [s2.angle, s2.at !== null]
    })
    .toEqual([25, true])
  expect(await faults(page)).toEqual([])
  await button('Done').click()

  // The way back is the way in, turned round, and every fastener is counted.
  const closing = (await ids(124)).filter((id) => id.startsWith('close.'))
  expect(closing).toEqual(['close.shield', 'close.battery-connector', 'close.bottom-cover'])
  await page.getByRole('heading', { name: 'Put the shield back' }).waitFor()
  await button('Done').click()
  await page.getByRole('alert').first().waitFor()
  await button('All 1').click()
  await button('Done').click()
  await page.getByRole('heading', { name: 'Put the battery connector back' }).waitFor()
  await expect
    .poll(async () => (await stepsOf(service, 124)).find((s) => s.step.id === 'close.shield')!.done !== null)
    .toBe(true)
  await doUpTo(service, 124, 'none')

  const lead = await open('ines', { width: 1280, height: 800 })
  await lead.goto('/guides/NV15')
  await lead.getByText('revision 2').waitFor()
  await lead.getByText('bottom cover').first().waitFor()
  await button('Publish it as the guide', lead).click()
  await lead
    .getByRole('alert')
    .getByText(/lacks “stated-max”/)
    .waitFor()
  expect(await faults(lead)).toEqual([])
})
