import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { faults, scan } from './browser'
import { bearer, launch, signIn, startDemo } from './demo.mjs'

let browser: Browser
let service: Awaited<ReturnType<typeof startDemo>>

beforeAll(async () => {
  service = await startDemo()
  browser = await launch()
}, 60_000)
afterAll(async () => {
  await browser.close()
  await service.end()
})

const at = async (person: string, size = { width: 1280, height: 800 }): Promise<Page> => {
  const context = await browser.newContext({ baseURL: service.url, viewport: size })
  await signIn(context, service.url, person)
  const page = await context.newPage()
  page.setDefaultTimeout(15_000)
  return page
}

test('an order is handed over with a word, which the next one reads before the run goes on', async () => {
  const [mara, tobi] = await Promise.all([at('mara'), at('tobi', { width: 800, height: 1280 })])
  await tobi.goto('/')
  await tobi.getByRole('link', { name: 'Notices' }).waitFor()
  await mara.goto('/orders/104')
  await mara.getByRole('button', { name: 'Take it in hand' }).click()
  await mara.getByText('in Mara’s hands').waitFor()
  await mara.getByText('Hand it over, move it, promise it').click()
  await mara.getByLabel('In whose hands').selectOption({ label: 'Tobi Quist' })
  await mara.getByLabel('What they must read').fill('the left clip of A1 is worn')
  await mara.getByRole('button', { name: 'Hand it over' }).click()
  await mara.getByText('in Tobi’s hands').waitFor()
  expect(await faults(mara)).toEqual([])

  // The journal parts what people told each other from what hands did.
  const journal = mara.locator('#journal')
  await journal.getByText("In Tobi's hands").first().waitFor()
  await journal.getByText('words', { exact: true }).click()
  await journal.getByText("In Tobi's hands").first().waitFor()
  expect(await journal.getByText('Taken in', { exact: false }).count()).toBe(0)
  await journal.getByText('measured', { exact: true }).click()
  await expect.poll(() => journal.getByText("In Tobi's hands").count()).toBe(0)

  // It is told where Tobi looks, without a reload.
  await tobi.getByRole('link', { name: /Notices 1/ }).click()
  await tobi.getByText('the left clip of A1 is worn').waitFor()
  expect(await faults(tobi)).toEqual([])
  await tobi.getByRole('button', { name: 'All are read' }).click()
  await expect.poll(() => tobi.getByRole('link', { name: /Notices/ }).innerText()).toBe('Notices')

  await tobi.goto('/orders/104/run')
  await tobi.getByRole('heading', { name: 'the left clip of A1 is worn' }).waitFor()
  expect(await tobi.getByRole('button', { name: 'Done' }).count()).toBe(0)
  expect(await faults(tobi)).toEqual([])
  await tobi.getByRole('button', { name: 'I have read it' }).click()
  await tobi.getByRole('heading', { name: 'Fit 16 GB into A1' }).waitFor()
}, 90_000)

test('a change brings its card to every screen, and not the board', async () => {
  const mara = await at('mara')
  const asked: string[] = []
  mara.on('request', (r) => asked.push(new URL(r.url()).pathname))
  await mara.goto('/?by=place&place=Bench%207')
  await mara.getByText('Nothing of that is open').waitFor()
  asked.length = 0
  await service.post('orders/108/place', { place: 'Bench 7' })
  await mara.getByRole('heading', { name: 'Bench 7' }).waitFor()
  await mara.getByRole('link', { name: /108/ }).waitFor()
  expect(asked).toContain('/api/v1/board/cards')
  expect(asked).not.toContain('/api/v1/board')

  // What is promised too soon says so at once; what ends is gone.
  await service.post('orders/105/promise', { at: new Date(Date.now() + 60_000).toISOString() })
  await mara.goto('/?owner=mara')
  await mara
    .getByRole('link', { name: /105/ })
    .getByText(/will be late by \d+ min/)
    .waitFor()
  await service.post('orders/105/cancel', { reason: 'not wanted' })
  await expect.poll(() => mara.getByRole('link', { name: /105/ }).count()).toBe(0)

  // The address is the view: another screen shows the same.
  await mara.getByLabel(/^by/).selectOption('person')
  await expect.poll(() => mara.url()).toContain('by=person')
  expect(await faults(mara)).toEqual([])
}, 90_000)

test('a wall is read from afar and asks for no hand; a phone lists what is due first', async () => {
  const added = await fetch(`${service.url}/api/v1/shop/people/wall`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json', ...(await bearer(service.url, 'ines')) },
    body: JSON.stringify({ name: 'Wall', role: 'wall' }),
  })
  expect(added.ok).toBe(true)
  const wall = await at('wall', { width: 1920, height: 1080 })
  await wall.goto('/')
  await wall.getByRole('heading', { name: /orders open/ }).waitFor()
  expect(await wall.getByRole('navigation').count()).toBe(0)
  expect(await faults(wall)).toEqual([])
  const small = await wall.evaluate(() =>
    [...document.querySelectorAll('.wall *')]
      .filter((e) => e.childElementCount === 0 && e.textContent)
      .filter((e) => parseFloat(getComputedStyle(e).fontSize) < 22)
      .map((e) => e.textContent),
  )
  expect(small).toEqual([])
  const cut = await wall.evaluate(() => document.documentElement.scrollHeight > innerHeight)
  expect(cut).toBe(false)

  const phone = await at('mara', { width: 390, height: 844 })
  await phone.goto('/')
  const first = phone.locator('.due-list .card').first()
  await first.getByText(/late by/).waitFor()
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  expect(await faults(phone)).toEqual([])
}, 90_000)

test('an order is parked until its customer answers, and goes on with the answer', async () => {
  const sanne = await at('sanne')
  const offer = await service.post('orders/106/quote/link', { days: 7 }, 'sanne')
  await sanne.goto('/orders/106#journal')
  await sanne.getByLabel('Note, or reason').fill('she asks her brother')
  await sanne.getByLabel('Until when').selectOption('customer-answers')
  await sanne.getByRole('button', { name: 'Park', exact: true }).click()
  await sanne
    .getByText(/waits for the customer/)
    .first()
    .waitFor()
  const customer = await browser.newPage()
  await customer.goto(offer.link as string)
  await customer.getByLabel('Your name').fill('B. Ring')
  await customer.getByRole('button', { name: /agree/i }).first().click()
  await sanne.locator('.order-head').getByText('agreed').waitFor()
  await sanne.getByRole('link', { name: /Notices 1/ }).waitFor()
}, 90_000)

test('a serial scanned at the board opens its order, and a slash leads to the search from anywhere', async () => {
  const mara = await at('mara')
  await mara.goto('/')
  await mara.getByRole('heading', { name: /open/ }).waitFor()
  await scan(mara, 'QT40-2215')
  await expect.poll(() => mara.url()).toContain('/orders/104')
  await mara.goto('/guides')
  await mara.getByRole('heading', { level: 1 }).waitFor()
  await mara.keyboard.press('/')
  await expect
    .poll(() => mara.evaluate(() => document.activeElement?.getAttribute('aria-label')))
    .toBe('Find orders, closed ones too')
}, 60_000)
