import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { everyTest, stepsOf, type Scene } from './scene'

let service: Scene['service']
let page: Page
let open: Scene['open']
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page, open } = scene))

const button = (name: string | RegExp) => page.getByRole('button', { name })
type Batch = { machines: { card: { number: number; stage: string; owner: string | null } }[] }
const machines = async (batch: number) => ((await service.get(`batches/${batch}`)) as Batch).machines

test('twenty machines are scanned one after another and taken in within two minutes', async () => {
  const desk = await open('sanne')
  const from = Date.now()
  await desk.goto('/take-in')
  await desk.getByText('several alike').click()
  await desk.getByLabel('Model').selectOption('FJ14')
  await desk.getByLabel('Serials, one a line').click()
  // A scanner types fast, and ends each with a return. The eleventh is scanned twice.
  for (let i = 1; i <= 20; i++) {
    await desk.keyboard.type(`ST-${i}`)
    await desk.keyboard.press('Enter')
    if (i === 11) await desk.keyboard.type('ST-11\n')
  }
  await desk.getByText('It stands on line 11 already.').waitFor()
  await desk.getByRole('textbox', { name: 'Customer', exact: true }).fill('Choir’s archive')
  await desk.getByLabel('Complaint').fill('slow with the new scores')
  const take = desk.getByRole('button', { name: 'Take 21 machines in' })
  await take.click()
  await desk
    .getByRole('alert')
    .getByText(/Line 12, “ST-11”.*Nothing was taken in/)
    .waitFor()
  const list = await desk.getByLabel('Serials, one a line').inputValue()
  await desk.getByLabel('Serials, one a line').fill(list.replace('ST-11\nST-11\n', 'ST-11\n'))
  await desk.getByRole('button', { name: 'Take 20 machines in' }).click()
  await desk.getByRole('heading', { name: 'Batch 137: 20 machines, Norrland Fjell 14' }).waitFor()
  expect(Date.now() - from).toBeLessThan(120_000)
  expect((await machines(137)).length).toBe(20)
}, 120_000)

test('one is planned, the others like it with what differs told before, and one word agrees for all', async () => {
  const shared = { model: 'FJ14', customer: 'Choir’s archive', complaint: 'slow', backup: 'made' }
  await service.post(
    'batches',
    { ...shared, machines: ['L1', 'L2', 'L3'].map((serial) => ({ serial })) },
    'sanne',
  )
  for (const [number, first] of [
    [137, 0],
    [138, 0],
    [139, 4],
  ]) {
    const slots = [
      { slot: 'S1', module: first ? { size: '4 GB' } : null },
      { slot: 'S2', module: { size: '8 GB' } },
    ]
    await service.post(`orders/${number}/readings`, { phase: 'before', seen: { slots } })
  }
  await page.goto('/batches/137')
  await page.getByRole('link', { name: 'Plan 137 first' }).waitFor()
  const fit = { partNumber: 'TM-8S', size: '8 GB', generation: 'DDR4', form: 'SO-DIMM' }
  await service.post('orders/137/plan', { changes: [{ slot: 'S1', fit }] })
  // The page follows by itself, and says what comes out of the third only.
  const odd = page.getByRole('listitem').filter({ hasText: 'comes out: 4 GB from S1' })
  await odd.waitFor()
  await odd.getByRole('checkbox').uncheck()
  await button('Plan 1 machine so').click()
  await page.getByText('2 planned').first().waitFor()
  expect((await machines(137)).map((m) => m.card.stage)).toEqual(['planned', 'planned', 'measured'])
  await page.getByLabel('Who agreed, and how').fill('M. Alto, by mail')
  await button('Agrees for 2 machines').click()
  await page.getByText('2 agreed').first().waitFor()
  await page.getByRole('group', { name: 'Who shares the work' }).getByRole('button', { name: 'Juno' }).click()
  await button('Give out 3 machines').click()
  await page.getByText('juno').nth(2).waitFor()
  expect((await machines(137)).map((m) => m.card.owner)).toEqual(['juno', 'juno', 'juno'])
  expect(await faults(page)).toEqual([])
}, 60_000)

test('a step is said of all machines at once, and where something is counted each is opened by itself', async () => {
  await page.goto('/')
  await page.getByRole('link', { name: /125.*School chemistry lab.*11 machines/ }).click()
  await page.getByRole('link', { name: 'Work step after step' }).click()
  await button('Done on 129').click()
  await button('Done on all 3').click()
  await page.getByRole('heading', { name: 'Lay out mat, strap and trays' }).waitFor({ state: 'detached' })
  for (const number of [129, 130, 131, 136]) {
    const done = (await stepsOf(service, number)).filter((s) => s.done)
    expect(done.map((s) => s.step.id)).toEqual(['prepare.bench'])
  }
  const record = page.getByRole('region', { name: 'Write down which drive came out of which bay' })
  expect(await record.getByRole('button').count()).toBe(0)
  await record.getByRole('link', { name: 'Open 134' }).click()
  await page.getByRole('heading', { name: 'Write down which drive came out of which bay' }).waitFor()
}, 60_000)

test('a machine goes its own way with a reason, and the others stay together', async () => {
  await page.goto('/orders/131')
  await page.getByText('It goes its own way').click()
  await page.getByLabel('Why it leaves the batch').fill('its S2 is faulty')
  await button('Leave batch 125').click()
  await page.getByRole('link', { name: 'one of batch 125' }).waitFor({ state: 'detached' })
  await page.goto('/batches/125')
  await page.getByText('left: its S2 is faulty').waitFor()
  await page.getByRole('heading', { name: /10 machines/ }).waitFor()
  // On the board it is a card of its own again.
  await page.goto('/')
  await page.getByRole('link', { name: /^131/ }).waitFor()
  await page.getByRole('link', { name: /^125.*10 machines/ }).waitFor()
}, 60_000)
