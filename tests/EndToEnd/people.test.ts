import { createHmac } from 'node:crypto'
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { faults, scan } from './browser'
import { launch, signIn, startDemo } from './demo.mjs'
import { startElsewhere } from './elsewhere.mjs'

let browser: Browser
let service: Awaited<ReturnType<typeof startDemo>>

beforeAll(async () => {
  service = await startDemo({ program: 'revtald' })
  browser = await launch()
}, 30_000)
afterAll(async () => {
  await browser.close()
  await service.end()
})

// RFC 6238: HMAC-SHA-1 over the count of 30 s steps.
function codeAt(key: string, at: number) {
  const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'
  const bits = [...key].map((c) => letters.indexOf(c).toString(2).padStart(5, '0')).join('')
  const bytes = (bits.match(/.{8}/g) ?? []).map((b) => parseInt(b, 2))
  const step = Buffer.alloc(8)
  step.writeBigInt64BE(BigInt(Math.floor(at / 30_000)))
  const mac = createHmac('sha1', Buffer.from(bytes)).update(step).digest()
  return String((mac.readUInt32BE(mac[19]! & 15) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}

const visit = async () => {
  const context = await browser.newContext({ baseURL: service.url, viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  page.setDefaultTimeout(15_000)
  return page
}

test('a new shop gets its first lead by the link in the log, and others by hers', async () => {
  const ines = await visit()
  await ines.goto('/')
  await ines.getByText('Nobody can sign in here yet').waitFor()
  await expect.poll(() => service.log()).toContain('/set-up#')
  await ines.goto(/http\S+\/set-up#[0-9a-f]+/.exec(service.log())![0])
  await ines.getByLabel('Your name').fill('Ines Havgard')
  await ines.getByLabel('Your id').fill('ines')
  await ines.getByLabel('Password').fill('too short')
  await ines.getByRole('button', { name: 'Choose it and sign in' }).click()
  await ines.getByRole('alert').getByText('at least 15 characters').waitFor()
  expect(await faults(ines)).toEqual([])
  await ines.getByLabel('Password').fill('harbour lamp violin seven')
  await ines.getByRole('button', { name: 'Choose it and sign in' }).click()
  await ines.getByRole('link', { name: 'People' }).click()

  await ines.getByLabel('Name', { exact: true }).fill('Mara Lind')
  await ines.getByLabel('Id', { exact: true }).fill('mara')
  await ines.getByRole('button', { name: 'Add or change' }).click()
  const row = ines.getByRole('row', { name: /Mara Lind/ })
  await row.getByRole('button', { name: 'Link to set a password' }).click()
  const link = await row.getByText('/set-up#').innerText()

  const mara = await visit()
  await mara.goto(link)
  await mara.getByRole('heading', { name: 'Welcome, Mara Lind' }).waitFor()
  await mara.getByLabel('Password').fill('four words without sense')
  await mara.getByRole('button', { name: 'Choose it and sign in' }).click()
  await mara.getByText('Mara Lind, technician').waitFor()

  // A code beside the password, for whoever wants it.
  await mara.getByRole('link', { name: 'People' }).click()
  await mara.getByLabel('For one-time codes: your password').fill('four words without sense')
  await mara.getByRole('button', { name: 'Begin with codes' }).click()
  const key = (await mara.getByAltText(/What makes the codes/).getAttribute('alt'))!.split(' ').at(-1)!
  expect(await faults(mara)).toEqual([])
  await mara.getByLabel('The code that it shows').fill(codeAt(key, Date.now()))
  await mara.getByRole('button', { name: 'Ask for codes from now on' }).click()
  const paper = await mara.locator('.paper-codes li').first().innerText()
  await mara.getByRole('button', { name: 'I have them on paper' }).click()
  await mara.getByText('10 of the codes on paper').waitFor()

  // Once used it opens nothing, and the password is what opens from now on.
  const again = await visit()
  await again.goto(link)
  await again.getByText('opens nothing any more').waitFor()
  await again.goto('/parts')
  await again.getByLabel('Your id').fill('mara')
  await again.getByLabel('Password').fill('four words without sense?')
  await again.getByRole('button', { name: 'Sign in' }).click()
  await again.getByRole('alert').getByText('do not belong together').waitFor()
  expect(await faults(again)).toEqual([])
  await again.getByLabel('Password').fill('four words without sense')
  await again.getByRole('button', { name: 'Sign in' }).click()
  await again.getByLabel('One-time code, or one from paper').fill('000000')
  await again.getByRole('button', { name: 'Sign in' }).click()
  await again.getByRole('alert').getByText('not the one of now').waitFor()
  await again.getByLabel('One-time code, or one from paper').fill(paper)
  await again.getByRole('button', { name: 'Sign in' }).click()
  await again.getByRole('heading', { name: 'Parts' }).waitFor()

  // Locked out by the lead, the open page asks again at its next step, or as soon as it hears of it.
  await row.getByRole('button', { name: 'Lock out' }).click()
  await row.getByRole('button', { name: /is locked out/ }).click()
  await row.getByText('can sign in no longer').waitFor()
  const door = again.getByLabel('Your id')
  await Promise.any([again.getByRole('link', { name: 'Guides' }).click(), door.waitFor()])
  await door.waitFor()
}, 60_000)

test('on a bench tablet hands change by PIN and by badge, in the run too, until a lead ends it', async () => {
  const shop = await startDemo()
  const at = async (person?: string, size = { width: 1280, height: 800 }) => {
    const context = await browser.newContext({ baseURL: shop.url, viewport: size })
    if (person) await signIn(context, shop.url, person)
    const page = await context.newPage()
    page.setDefaultTimeout(15_000)
    return page
  }
  try {
    const mara = await at('mara')
    await mara.goto('/people')
    await mara.getByLabel('A PIN for the bench’s tablets').fill('1234')
    await mara.getByRole('button', { name: 'Choose it' }).click()
    await mara.getByRole('alert').getByText('row of digits').waitFor()
    await mara.getByLabel('A PIN for the bench’s tablets').fill('4071')
    await mara.getByRole('button', { name: 'Choose it' }).click()
    await mara.getByText('works at every tablet').waitFor()

    const ines = await at('ines')
    await ines.goto('/people')
    await ines.getByLabel('A tablet’s name').fill('Bench 2')
    await ines.getByRole('button', { name: 'Make its link' }).click()
    const link = await ines.getByText('/tablet#').innerText()
    await ines.getByRole('row', { name: /Tobi/ }).getByRole('button', { name: 'New badge' }).click()
    await ines.getByAltText(/badge of Tobi/).waitFor()
    expect(await faults(ines)).toEqual([])
    // What stands on it, as a scanner reads it.
    const tobi = (await shop.post('shop/people/tobi/badge', null, 'ines')).code as string

    const tablet = await at(undefined, { width: 800, height: 1280 })
    await tablet.goto(link)
    await tablet.getByRole('button', { name: 'Make this screen a bench tablet' }).click()
    await tablet.getByRole('heading', { name: 'Whose hands at Bench 2?' }).waitFor()
    expect(await faults(tablet)).toEqual([])
    await tablet.getByRole('button', { name: /Mara/ }).click()
    for (const digit of '4072') await tablet.getByRole('button', { name: digit, exact: true }).click()
    await tablet.getByRole('button', { name: 'Enter' }).click()
    await tablet
      .getByRole('alert')
      .getByText('not this person’s')
      .or(tablet.getByText("not this person's"))
      .waitFor()
    expect(await faults(tablet)).toEqual([])
    await tablet.keyboard.type('4071')
    await tablet.keyboard.press('Enter')
    await tablet.getByRole('button', { name: 'Change hands' }).waitFor()

    // In the run a scanned badge is enough, and what is half typed stays.
    await tablet.goto('/orders/104/run')
    await tablet.locator('.run-top .hands').getByText('Mara Lind').waitFor()
    await scan(tablet, tobi)
    await tablet.locator('.run-top .hands').getByText('Tobi Quist').waitFor()
    await tablet.getByRole('button', { name: 'Change hands' }).click()
    await tablet.getByRole('button', { name: 'Stay Tobi Quist' }).click()
    await tablet.locator('.run-top .hands').getByText('Tobi Quist').waitFor()

    // Scanned into a field the badge does not stay there.
    await tablet.goto('/take-in')
    const field = tablet.getByLabel('Customer').first()
    await field.fill('Ferry desk')
    await field.press('End')
    await tablet.keyboard.type(tobi)
    await tablet.keyboard.press('Enter')
    await expect.poll(() => field.inputValue()).toBe('Ferry desk')

    await ines.getByRole('button', { name: 'End it: Bench 2' }).click()
    await tablet.getByText('Who are you today?').waitFor({ timeout: 30_000 })
  } finally {
    await shop.end()
  }
}, 90_000)

test('a bench tablet that nobody touches asks again whose hands', async () => {
  const shop = await startDemo({ more: ['--shop:tabletLocksAfter', '1'] })
  try {
    const made = await shop.post('shop/tablets', { name: 'Bench 3' }, 'ines')
    const badge = (await shop.post('shop/people/mara/badge', null, 'ines')).code as string
    const context = await browser.newContext({ baseURL: shop.url, viewport: { width: 800, height: 1280 } })
    const tablet = await context.newPage()
    await tablet.clock.install()
    await tablet.goto(made.link as string)
    await tablet.getByRole('button', { name: 'Make this screen a bench tablet' }).click()
    const free = tablet.getByRole('heading', { name: 'Whose hands at Bench 3?' })
    await free.waitFor()
    await scan(tablet, badge)
    await tablet.getByText('Mara Lind').waitFor()
    await tablet.clock.runFor(50_000)
    await tablet.mouse.click(5, 5)
    await tablet.clock.runFor(50_000)
    expect(await free.count()).toBe(0)
    await tablet.clock.runFor(20_000)
    await free.waitFor()
    const session = await tablet.request.get('/api/v1/session')
    expect(((await session.json()) as { person: unknown }).person).toBeNull()

    // Without a network it asks, and whoever is still there says so.
    await scan(tablet, badge)
    await tablet.getByText('Mara Lind').waitFor()
    await context.setOffline(true)
    await tablet.clock.runFor(70_000)
    await tablet.getByRole('button', { name: 'Stay Mara Lind' }).click()
    await tablet.getByText('Mara Lind').waitFor()
  } finally {
    await shop.end()
  }
}, 90_000)

test('people sign in by another service, and only those whom a lead has added', async () => {
  // The service's address is known once it listens; it comes back there with the other one named.
  const shop = await startDemo({ program: 'revtald' })
  const elsewhere = await startElsewhere(`${shop.url}/oidc/callback`)
  try {
    await expect.poll(() => shop.log()).toContain('/set-up#')
    const link = /set-up#([0-9a-f]+)/.exec(shop.log())![1]
    const lead = await fetch(`${shop.url}/api/v1/session/set-up/${link}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ id: 'ines', name: 'Ines Havgard', password: 'harbour lamp violin seven' }),
    })
    expect(lead.ok).toBe(true)
    const context = await browser.newContext({ baseURL: shop.url })
    const without = await context.request.get('/api/v1/session/oidc', { maxRedirects: 0 })
    expect(without.status()).toBe(404)
    await shop.stop()
    await shop.start([
      '--oidc:authority',
      elsewhere.url,
      '--oidc:clientId',
      'bench',
      '--oidc:clientSecret',
      'of-this-test-alone',
      '--oidc:name',
      'the harbour account',
    ])
    const page = await context.newPage()
    page.setDefaultTimeout(15_000)
    const comeAs = async (id: string) => {
      await page.goto('/')
      await page.getByRole('link', { name: 'Sign in with the harbour account' }).click()
      await page.locator('[name=login]').fill(id)
      await page.locator('[name=password]').fill('theirs')
      await page.locator('[type=submit]').click()
      await page.getByRole('button', { name: 'Continue' }).click()
    }
    await comeAs('olaf')
    await page.getByRole('alert').getByText('Nobody at this bench is called “olaf”').waitFor()
    expect(await faults(page)).toEqual([])
    await context.clearCookies()
    await comeAs('ines')
    await page.getByText('Ines Havgard, lead').waitFor()
    await page.getByRole('link', { name: 'People' }).click()
    await page
      .getByRole('row', { name: /sign in failed/ })
      .getByText('the harbour account')
      .waitFor()
  } finally {
    await elsewhere.end()
    await shop.end()
  }
}, 60_000)
