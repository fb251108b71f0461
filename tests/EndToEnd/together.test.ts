import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { faults, openAs, scan } from './browser'
import { launch, startDemo } from './demo.mjs'

let browser: Browser
let service: Awaited<ReturnType<typeof startDemo>>
const desk = { width: 1280, height: 800 }

beforeAll(async () => {
  service = await startDemo({ more: ['--hosts', 'bench.test'] })
  browser = await launch(['--host-resolver-rules=MAP bench.test 127.0.0.1'])
}, 60_000)
afterAll(async () => {
  await browser.close()
  await service.end()
})

const placeOf = async (order: number) => (await service.get(`orders/${order}`)).place as string | null

test('two people at one order see each other, and neither says over the other', async () => {
  const mara = await openAs(browser, service.url, 'mara', desk)
  const tobi = await openAs(browser, service.url, 'tobi', desk)
  await mara.goto('/orders/104')
  await tobi.goto('/orders/104')
  // A page that misses the word of another hears it with its next own, within fifteen seconds.
  const heard = { timeout: 30_000 }
  await tobi.getByText('Mara Lind is here too').waitFor(heard)
  await mara.getByText('Tobi Quist is here too').waitFor(heard)
  await mara.getByText('Hand it over, move it, promise it').click()
  const where = mara.getByLabel('Where it lies, written or scanned')
  await where.fill('shelf 3')
  await tobi.getByText('Mara Lind writes here').waitFor(heard)
  expect(await faults(tobi)).toEqual([])

  // What has nothing to do with it takes nothing from under the hands.
  await service.post('orders/104/notes', { text: 'rang the customer' })
  await mara.getByText('rang the customer').waitFor()
  expect(await where.inputValue()).toBe('shelf 3')
  await mara.getByRole('button', { name: 'It lies there' }).click()
  await expect.poll(() => placeOf(104)).toBe('shelf 3')

  await where.fill('shelf 4')
  await service.post('orders/104/place', { place: 'Bench 2' })
  await mara.getByText('It lies at Bench 2.').waitFor()
  expect(await where.inputValue()).toBe('shelf 4')
  expect(await mara.getByRole('button', { name: 'It lies there' }).isDisabled()).toBe(true)
  expect(await faults(mara)).toEqual([])
  await mara.getByRole('button', { name: 'Go on with mine' }).click()
  await mara.getByRole('button', { name: 'It lies there' }).click()
  await expect.poll(() => placeOf(104)).toBe('shelf 4')

  await mara.goto('/')
  await expect.poll(() => tobi.getByText(/Mara Lind (is|writes) here/).count()).toBe(0)
  await mara.context().close()
  await tobi.context().close()
}, 120_000)

test('a press on what another screen has changed in the same moment is not recorded, and both are shown', async () => {
  const mara = await openAs(browser, service.url, 'mara', desk)
  // Nothing that others do comes to this page by itself.
  await mara.route('**/api/v1/changes', (route) => route.abort())
  await mara.goto('/orders/105')
  await mara.getByText('Hand it over, move it, promise it').click()
  await mara.getByLabel('Where it lies, written or scanned').fill('shelf 9')
  await service.post('orders/105/notes', { text: 'a note' })
  await mara.getByRole('button', { name: 'It lies there' }).click()
  // Only a note came between: it is said on top of that.
  await expect.poll(() => placeOf(105)).toBe('shelf 9')

  await mara.getByLabel('Where it lies, written or scanned').fill('shelf 10')
  await service.post('orders/105/place', { place: 'Bench 3' })
  await mara.getByRole('button', { name: 'It lies there' }).click()
  await mara.getByText('It lies at Bench 3.').waitFor()
  expect(await placeOf(105)).toBe('Bench 3')
  await mara.getByRole('button', { name: 'Take that' }).click()
  expect(await mara.getByLabel('Where it lies, written or scanned').inputValue()).toBe('Bench 3')
  await mara.context().close()
})

test('what is wished on the plan page stays while others work, and another plan is shown beside it', async () => {
  const mara = await openAs(browser, service.url, 'mara', desk)
  await mara.goto('/orders/107/plan')
  const cleaning = mara.getByLabel('Running total').getByRole('checkbox')
  await cleaning.check()
  await service.post('orders/107/notes', { text: 'the fan is loud' })
  await mara.waitForTimeout(1000)
  expect(await cleaning.isChecked()).toBe(true)

  const [first] = (await service.get('orders/107/options?target=32%20GB')).options
  await service.post('orders/107/plan', { changes: first.option.changes })
  await mara.getByText(/Another plan was set, for \d+ GB/).waitFor()
  expect(await cleaning.isChecked()).toBe(true)
  expect(await faults(mara)).toEqual([])
  await mara.getByRole('button', { name: 'Take that' }).click()
  expect(await cleaning.isChecked()).toBe(false)
  await mara.getByRole('button', { name: 'Change the plan' }).waitFor()
  await mara.context().close()
})

test('over plain http and by another name the console works as well', async () => {
  const url = service.url.replace('127.0.0.1', 'bench.test')
  const page = await (await browser.newContext({ viewport: desk, baseURL: url })).newPage()
  page.setDefaultTimeout(15_000)
  await page.goto('/')
  await page.getByRole('button', { name: /Mara Lind/ }).click()
  await page.getByRole('link', { name: 'Take in', exact: true }).waitFor()
  expect(await page.evaluate(() => isSecureContext)).toBe(false)
  await page.goto('/orders/104')
  await page.getByLabel(/^Note/).fill('said over plain http')
  await page.getByRole('button', { name: 'Add as a note' }).click()
  await expect
    .poll(async () => JSON.stringify(await service.get('orders/104/entries')))
    .toContain('said over plain http')
  await page.context().close()
})

test('a note is answered, and whoever is meant is offered as the name is begun', async () => {
  const { sequence } = await service.post('orders/104/notes', { text: 'the hinge is cracked' })
  const mara = await openAs(browser, service.url, 'mara', desk)
  await mara.goto('/orders/104')
  const line = mara.getByRole('listitem').filter({ hasText: 'the hinge is cracked' })
  await line.getByRole('button', { name: 'Answer' }).click()
  const field = mara.getByLabel('Answer tobi')
  await field.pressSequentially('so on arrival, @s')
  await mara.getByRole('option', { name: 'Sanne Dyk @sanne' }).waitFor()
  expect(await faults(mara)).toEqual([])
  await field.press('Enter')
  expect(await field.inputValue()).toBe('so on arrival, @sanne ')
  await field.pressSequentially('knows')
  await field.press('Enter')
  const answer = mara.getByRole('listitem').filter({ hasText: 'so on arrival, @sanne knows' })
  await answer.getByText('Tobi: the hinge is cracked').waitFor()
  const { journal } = await service.get('orders/104')
  expect(journal.at(-1)).toMatchObject({
    begun: sequence,
    text: `To ${sequence}: so on arrival, @sanne knows`,
  })

  // The word of the field itself is sent by Enter only where nobody is offered, and Escape takes the offer away.
  const note = mara.getByLabel(/^Note/)
  await note.fill('@to')
  await mara.getByRole('option', { name: 'Tobi Quist @tobi' }).waitFor()
  await note.press('Escape')
  await expect.poll(() => mara.getByRole('option', { name: 'Tobi Quist @tobi' }).count()).toBe(0)
  await mara.context().close()
})

test('keys lead to every page, are told by ?, and can be turned off', async () => {
  const mara = await openAs(browser, service.url, 'mara', desk)
  await mara.goto('/orders/104')
  await mara.getByRole('heading', { name: /104/ }).first().waitFor()
  await mara.keyboard.press('?')
  const map = mara.getByRole('dialog', { name: 'Keys' })
  await map.getByText('the run of 104').waitFor()
  expect(await faults(mara)).toEqual([])
  // What is open above the page keeps the keys to itself.
  await mara.keyboard.press('b')
  await mara.waitForTimeout(200)
  expect(mara.url()).toContain('/orders/104')
  await mara.keyboard.press('Escape')
  await map.waitFor({ state: 'hidden' })

  await mara.keyboard.press('p')
  await expect.poll(() => mara.url()).toContain('/orders/104/plan')
  await mara.keyboard.press('o')
  await expect.poll(() => new URL(mara.url()).pathname).toBe('/orders/104')
  // Who writes, writes.
  const note = mara.getByLabel(/^Note/)
  await note.pressSequentially('b?/n')
  expect(await note.inputValue()).toBe('b?/n')
  // A scanner types faster than any hand: none of its letters is a key.
  await note.blur()
  await scan(mara, 'revtal:order:105')
  await expect.poll(() => new URL(mara.url()).pathname).toBe('/orders/105')

  await mara.keyboard.press('?')
  await map.getByRole('checkbox').uncheck()
  await map.getByRole('button', { name: 'Close' }).click()
  await mara.reload()
  await mara.getByRole('heading', { name: /105/ }).first().waitFor()
  await mara.keyboard.press('b')
  await mara.waitForTimeout(300)
  expect(new URL(mara.url()).pathname).toBe('/orders/105')
  await mara.keyboard.press('?')
  await map.getByRole('checkbox').check()
  await mara.context().close()
})
