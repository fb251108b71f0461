import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { doUpTo, everyTest, type Scene } from './scene'

let service: Scene['service']
let page: Page
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page } = scene))

type Order = {
  number: number
  stage: string
  actions: { act: string; whyNot: string | null }[]
  comesOut: { position: string; isDrive: boolean; settled: object | null }[]
}

const get = async <T>(path: string) => (await service.get(path)) as T
const order = (number: number) => get<Order>(`orders/${number}`)
const orders = async () => {
  const cards = (await get<{ items: { number: number }[] }>('orders?limit=50')).items
  return Promise.all(cards.map((c) => order(c.number)))
}
const may = (o: Order, act: string) => o.actions.some((a) => a.act === act && a.whyNot === null)
const button = (name: string | RegExp) => page.getByRole('button', { name, exact: typeof name === 'string' })
// What is folded away is offered too.
const shows = async (tag: 'a' | 'button', text: RegExp) =>
  (await page.locator(tag, { hasText: text }).count()) > 0

test('each order offers what its stage allows, and nothing else', async () => {
  const all = await orders()
  expect(new Set(all.map((o) => o.stage)).size).toBeGreaterThan(7)
  for (const o of all) {
    await page.goto(`/orders/${o.number}`)
    await page.getByRole('heading', { level: 1 }).getByText(String(o.number)).waitFor()
    const offered = {
      park: await shows('button', /^Park$/),
      resume: await shows('button', /^Resume$/),
      cancel: await shows('button', /^Cancel the order$/),
      'set-plan': await shows('a', /^(Plan it|Change the plan)$/),
      'mark-ready': await shows('button', /^Mark it ready$/),
      'hand-back': await shows('button', /^Hand it back$/),
    }
    const allowed = Object.fromEntries(Object.keys(offered).map((act) => [act, may(o, act)]))
    expect({ number: o.number, stage: o.stage, ...offered }).toEqual({
      number: o.number,
      stage: o.stage,
      ...allowed,
    })
  }
}, 120_000)

test('an order that cannot be planned says what comes first', async () => {
  const all = await orders()
  const unread = all.find((o) => o.stage === 'taken-in')!
  await page.goto(`/orders/${unread.number}/plan`)
  const why = unread.actions.find((a) => a.act === 'set-plan')!.whyNot!
  await page.getByText(why).waitFor()
  expect(await shows('button', /^Set the plan$/)).toBe(false)
}, 60_000)

test('a machine is taken in, and the tab is called by its number', async () => {
  await page.goto('/take-in')
  expect(await button('Take it in').isDisabled()).toBe(true)
  await page.getByLabel('Model').selectOption('FJ14')
  await page.getByText('Tell apart:').waitFor()
  await page.getByRole('textbox', { name: /^Customer/ }).fill('Net loft')
  await page.getByRole('textbox', { name: /^Complaint/ }).fill('Charts open slowly')
  await button('Take it in').click()
  await page.getByRole('heading', { level: 1, name: /Fjell 14/ }).waitFor()
  const number = Number(/orders\/(\d+)/.exec(page.url())![1])
  await expect.poll(() => page.title()).toBe(`${number} Fjell 14 · Revtal`)
  expect((await order(number)).stage).toBe('taken-in')
  await page.getByText('1 entry').waitFor()
}, 60_000)

test('an address that is no order leads back to the board', async () => {
  await page.goto('/orders/abc')
  await page.getByText('An order’s number has digits only, like 104.').waitFor()
  await page.goto('/orders/9999')
  await page.getByText('There is no order 9999.').waitFor()
  await page.getByRole('link', { name: 'To the board' }).click()
  await expect.poll(() => page.title()).toBe('Board · Revtal')
}, 60_000)

test('what comes out is asked for, and a drive is cleared before it leaves', async () => {
  const position = 'D1'
  await service.post('orders/117/copy', { copy: 'verified', text: 'image, files counted', sampled: 40 })
  await doUpTo(service, 117, 'fit.D1')
  await page.goto('/orders/117')
  await page.getByRole('region', { name: 'Holds' }).getByText('fate open').waitFor()
  await page.getByRole('heading', { name: 'Hand back' }).click()
  const fate = page.getByLabel(`What becomes of what came out of ${position}`)
  await fate.selectOption('kept')
  expect(await page.getByLabel(`How thoroughly, ${position}`).count()).toBe(0)
  await fate.selectOption('recycled')
  await page.getByLabel(`How thoroughly, ${position}`).selectOption('purge')
  await page.getByLabel(`wiped how, ${position}`).fill('sanitize, block erase')
  await button('Record it').last().click()
  await page.getByRole('alert').waitFor()
  await page.getByLabel(`verified how, ${position}`).fill('read back, all zero')
  await button('Record it').last().click()
  await page
    .locator('#hand-back')
    .getByText('recycled, purge by sanitize, block erase, verified: read back, all zero')
    .waitFor()
  await page.getByRole('region', { name: 'Holds' }).waitFor({ state: 'detached' })
}, 60_000)

test('the shelf shows what suits, and says why the rest does not', async () => {
  await page.goto('/orders/117/plan')
  await page.getByRole('tab', { name: 'Shelf' }).click()
  const parts = page.locator('.plan-side .grips li, .plan-side .grips > *')
  await parts.first().waitFor()
  const suited = await parts.count()
  await page.getByText('also what does not suit').click()
  await expect.poll(() => parts.count()).toBeGreaterThan(suited)
  const lines = await get<{ whyUnsuited: string | null }[]>('orders/117/shelf')
  const why = lines.find((l) => l.whyUnsuited)!.whyUnsuited!
  await page.getByText(why).first().waitFor()
}, 60_000)

test('a guide tells each trap where it happens', async () => {
  const { guide } = await get<{ guide: { traps: { text: string }[] } }>('guides/FJ14')
  await page.goto('/guides/FJ14')
  for (const trap of guide.traps) await page.getByText(trap.text).first().waitFor()
}, 60_000)
