import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { bearer } from './demo.mjs'
import { faults } from './browser'
import { everyTest, type Scene } from './scene'

let service: Scene['service']
let page: Page
let open: Scene['open']
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page, open } = scene))

const button = (name: string | RegExp) => page.getByRole('button', { name, exact: typeof name === 'string' })
const stage = (name: string) => page.locator('.order-head').getByText(name, { exact: true }).waitFor()
const free = async (number: string) =>
  ((await service.get(`parts?text=${number}`)) as { items: Line[] }).items.find(
    (l) => l.kind.number === number,
  )?.free ?? 0
type Line = { kind: { number: string }; free: number }

test('a customer who declines is called, and may still agree to a plan that changed', async () => {
  await page.goto('/orders/106')
  await page.getByLabel('Who agreed, and how').fill('R. Fahr, by mail')
  await button('Declines').click()
  await page.locator('#journal').getByText('R. Fahr, by mail declined').waitFor()
  await stage('planned')
  await page.locator('#customer summary').first().click()
  await page.getByLabel('Who agreed, and how').fill('R. Fahr, on the telephone')
  await button('The customer agrees').click()
  await stage('agreed')
  await page.locator('#customer summary').first().click()
  await page.getByText('Agreed: R. Fahr, on the telephone').waitFor()
})

test('a link that is taken back opens nothing on the telephone', async () => {
  await page.goto('/orders/106')
  await button('Make a link for the customer').click()
  const link = new URL((await page.locator('.link-once').textContent())!).pathname
  const phone = await open('', { width: 390, height: 800 })
  await phone.goto(link)
  await phone.getByRole('heading', { name: 'What it costs' }).waitFor()
  expect(await faults(phone)).toEqual([])
  await button('Take it back').click()
  await button('Make a link for the customer').waitFor()
  await phone.reload()
  await phone.getByText('This link opens no quote').waitFor()
})

test('a second link closes the first', async () => {
  await page.goto('/orders/106')
  await button('Make a link for the customer').click()
  const first = new URL((await page.locator('.link-once').textContent())!).pathname
  await button('Make another link').click()
  await page.waitForFunction(
    (was) => !document.querySelector('.link-once')?.textContent?.endsWith(was),
    first,
  )
  const second = new URL((await page.locator('.link-once').textContent())!).pathname
  const phone = await open('', { width: 390, height: 800 })
  await phone.goto(first)
  await phone.getByText('This link opens no quote').waitFor()
  await phone.goto(second)
  await phone.getByLabel('Your name').fill('R. Fahr')
  await phone.getByRole('button', { name: 'Decline' }).click()
  await phone.getByText('You declined.').waitFor()
  await page.locator('#journal').getByText('R. Fahr declined').waitFor()
})

test('an order rests with its reason, goes on where it was, and ends with its reason', async () => {
  await page.goto('/orders/107')
  await stage('measured')
  await page.getByLabel('Note, or reason').fill('waiting for the ferry')
  await button('Park').click()
  await stage('parked')
  await page.getByText('waiting for the ferry').first().waitFor()
  expect(await page.getByRole('link', { name: 'Plan it' }).count()).toBe(0)
  await button('Resume').click()
  await stage('measured')
  await page.getByLabel('Note, or reason').fill('the customer took it home')
  await button('Cancel the order').click()
  await stage('cancelled')
  await page.goto('/')
  expect(await page.getByRole('link', { name: /^107/ }).count()).toBe(0)
})

test('what a press cannot do is said beside it, and the form keeps what was typed', async () => {
  await page.goto('/orders/103')
  await page.locator('#check').getByLabel('Why it goes out all the same').fill('the customer wants it today')
  await button('Mark it ready').click()
  await page.getByRole('alert').getByText(/lead/).first().waitFor()
  expect(await page.getByLabel('Why it goes out all the same').inputValue()).toBe(
    'the customer wants it today',
  )
  const lead = await open('ines')
  await lead.goto('/orders/103')
  await lead.getByLabel('Why it goes out all the same').fill('the customer wants it today')
  await lead.getByRole('button', { name: 'Mark it ready' }).click()
  await stage('ready')
})

test('a module that leaves is bought in, and lies on the shelf under its own number', async () => {
  const orders = (await service.get('orders?limit=50')) as { items: { number: number }[] }
  type Order = {
    number: number
    comesOut: { position: string; isDrive: boolean; settled: object | null; name: string }[]
    actions: { act: string; whyNot: string | null }[]
  }
  const all = (await Promise.all(orders.items.map((c) => service.get(`orders/${c.number}`)))) as Order[]
  const mayGo = (o: Order) => o.actions.some((a) => a.act === 'settle-old-part' && a.whyNot === null)
  const [order, part] = all
    .filter(mayGo)
    .flatMap((o) => o.comesOut.filter((p) => !p.isDrive && !p.settled).map((p) => [o, p] as const))[0]!
  // “4 GB DDR4-2666 Tarnmoor TM-4S” ends with its number.
  const number = part.name.split(' ').at(-1)!
  const before = await free(number)
  await page.goto(`/orders/${order.number}`)
  const section = page.locator('#hand-back')
  await section.locator('summary').first().click()
  await section.getByLabel(`What becomes of what came out of ${part.position}`).selectOption('bought-in')
  await section.getByLabel(`Grade, ${part.position}`).selectOption('B')
  await section.getByLabel(`tested how, ${part.position}`).fill('one night of memory tests')
  await section.getByLabel(`paid, ${part.position}`).fill('6')
  await section.getByRole('button', { name: 'Record it' }).first().click()
  await section.getByText('the shop buys it, grade B, tested: one night of memory tests').waitFor()
  expect(await free(number)).toBe(before + 1)
})

test('parts come in by their serials, and none twice', async () => {
  await page.goto('/parts')
  await page.getByLabel('Search the parts').fill('BN-1T')
  await page.getByRole('button', { name: 'BN-1T' }).click()
  const before = await free('BN-1T')
  await page.getByLabel('Serials, or how many').fill('BN1T-9001 BN1T-9002')
  await page.getByLabel('Cost of one').fill('61.50')
  await page.getByLabel('Where they lie').fill('drawer 7')
  await button('They come in').click()
  await page.getByText('BN1T-9002').waitFor()
  expect(await free('BN-1T')).toBe(before + 2)
  await page.getByLabel('Serials, or how many').fill('BN1T-9002')
  await button('They come in').click()
  await page.getByRole('alert').getByText('One of these serials is in the shop already.').waitFor()
  expect(await free('BN-1T')).toBe(before + 2)
})

test('a faulty part goes back under a claim', async () => {
  await page.goto('/parts')
  await page.getByLabel('Search the parts').fill('BN-1T')
  await page.getByRole('button', { name: 'BN-1T' }).click()
  const becomes = page.getByLabel('What becomes of BN1T-002')
  await becomes.selectOption('faulty')
  await page.locator('.items span').getByText('faulty', { exact: true }).waitFor()
  await becomes.selectOption('returned')
  expect(await button('It goes back').isDisabled()).toBe(true)
  await page.getByLabel('Number of the claim').fill('R-4711')
  await page.getByLabel('What is claimed').fill('errors from the first day')
  await button('It goes back').click()
  await page.getByText('1 more is sold, returned or scrapped.').waitFor()
})

test('what somebody else puts on the shelf is on the page by itself', async () => {
  await page.goto('/parts')
  await page.getByRole('button', { name: 'BN-1T' }).waitFor()
  const put = await fetch(`${service.url}/api/v1/parts/kind/ZZ-LIVE`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json', ...(await bearer(service.url, 'ines')) },
    body: JSON.stringify({ name: 'Seen at once', price: 9, module: { size: '8 GB' } }),
  })
  expect(put.status).toBe(201)
  await page.getByText('Seen at once').waitFor()
})

test('two revisions of a guide stand side by side', async () => {
  await page.goto('/guides/QT40/compare')
  await page.getByRole('cell').nth(2).waitFor()
  const cells = await page.getByRole('cell').allInnerTexts()
  expect(cells.length).toBeGreaterThan(2)
})

test('who goes on from an older draft is told, and loses nothing that was typed', async () => {
  const [ines, tobi] = [await open('ines'), await open('tobi')]
  for (const p of [ines, tobi]) {
    await p.goto('/guides/NL12/edit')
    await p.getByLabel('The guide’s file').waitFor()
  }
  const add = async (p: Page, words: string) => {
    const file = p.getByLabel('The guide’s file')
    await file.fill((await file.inputValue()) + `# ${words}\n`)
    await p.getByRole('button', { name: 'Save the draft' }).click()
  }
  await add(ines, 'by Ines')
  await ines.getByText('draft').first().waitFor()
  await add(tobi, 'by Tobi')
  await tobi.getByRole('alert').first().waitFor()
  expect(await tobi.getByLabel('The guide’s file').inputValue()).toContain('# by Tobi')
  const draft = (await service.get('guides/NL12/draft')) as { yaml: string }
  expect(draft.yaml).toContain('# by Ines')
  expect(draft.yaml).not.toContain('# by Tobi')
})

test('an empty search says so, and the board comes back when it is cleared', async () => {
  await page.goto('/')
  const search = page.getByRole('searchbox').first()
  await search.fill('nobody has such a machine')
  await page
    .getByText(/[Nn]othing|No order/)
    .first()
    .waitFor()
  await search.fill('')
  await page.getByRole('link', { name: /107/ }).waitFor()
})
