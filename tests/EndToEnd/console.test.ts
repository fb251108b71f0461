import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { signIn } from './demo.mjs'
import { capture, everyTest, type Scene } from './scene'

let service: Scene['service']
let page: Page
let open: Scene['open']
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, page, open } = scene))

const button = (name: string | RegExp) => page.getByRole('button', { name, exact: typeof name === 'string' })

/** Confirms step after step as the run view shows them, counting all fasteners; a lead waives the cooling. */
async function doTheRun(order?: number) {
  for (;;) {
    await page.locator('.step h1').waitFor()
    if (await page.getByRole('link', { name: 'To the order' }).isVisible()) return
    const title = await page.locator('.step h1').innerText()
    if (order && title.startsWith('Let it cool'))
      await service.post(
        `orders/${order}/waivers`,
        {
          gate: 'still-cooling',
          step: 'isolate.cool-down',
          reason: 'came in cold',
        },
        'ines',
      )
    const expected = page.getByText(/^[\d.]+ GB should show/)
    if (title.includes('case open') && (await expected.isVisible()))
      await page
        .getByLabel('The firmware shows')
        .fill((await expected.innerText()).replace(' should show.', ''))
    const all = button(/^All \d+$/)
    // The page may have gone on by itself meanwhile: then it is looked at anew.
    const isGone =
      (await all.isVisible()) &&
      !(await all.click({ timeout: 3000 }).then(
        () => true,
        () => false,
      ))
    if (isGone) continue
    const over = page.getByRole('link', { name: 'To the order' })
    await button('Done').or(over).first().waitFor()
    if (await over.isVisible()) return
    await button('Done').click()
    // A press that met a page in motion is made again, as a hand would.
    await page
      .waitForFunction((was) => document.querySelector('.step h1')?.textContent !== was, title, {
        timeout: 5000,
      })
      .catch(async () => {
        const refused = await page.locator('.trouble').allInnerTexts()
        if (refused.length > 0) throw new Error(`“${title}” is not taken: ${refused.join(' ')}`)
      })
  }
}

test('one upgrade, from take-in to hand-back', async () => {
  await page.goto('/take-in')
  await page.getByLabel('Model').selectOption('FJ14')
  await page.getByText('FJ14-1 has S1 soldered').waitFor()
  await page.getByRole('textbox', { name: 'Customer', exact: true }).fill('Tide-gauge office')
  await page.getByLabel('Complaint').fill('The chart program stops')
  await button('Take it in').click()

  await page.getByText('From a capture', { exact: true }).first().click()
  await page.locator('input[type=file]').setInputFiles(capture('vm-before-4g'))
  await button('Take the before reading').click()

  await page.getByRole('link', { name: 'Plan it' }).click()
  await page.getByLabel('What S1 gets').selectOption('from:S2')
  await page.getByRole('tab', { name: 'Shelf' }).click()
  const put = async (size: string) => {
    await page.getByLabel('Its size').fill(size)
    await button('Take it up').click()
    await button('Put it into S2').click()
  }
  // What the shelf lists comes above it, and moves it.
  await page.waitForLoadState('networkidle')
  await page.getByText('Not in the catalogue').click()
  await put('32 GB')
  await page.getByRole('alert').getByText('S2 takes up to 16 GB').waitFor()
  await put('16 GB')
  await page.getByLabel('Running total').getByText('20 GB', { exact: true }).waitFor()
  await button('Set the plan').click()

  await page.getByLabel('Who agreed, and how').fill('J. Marsk, by telephone')
  await button('The customer agrees').click()
  await page.getByRole('link', { name: 'Begin the run' }).click()
  await doTheRun()
  await page.getByRole('link', { name: 'To the order' }).click()

  await page.locator('#after').getByText('From a capture', { exact: true }).click()
  await page.locator('#after input[type=file]').setInputFiles(capture('vm-after-20g'))
  await button('Take the after reading').click()
  await page.locator('#check').getByText('20 GB installed, as planned.').waitFor()
  await button('Mark it ready').click()
  await page.getByLabel('Who takes it').fill('J. Marsk')
  await button('Hand it back').click()
  await page.locator('.journal-list').getByText('Handed back to J. Marsk').waitFor()
  const shown = await page.getByRole('img').first().getAttribute('aria-label')
  expect(shown).toBe(
    'S1: before empty, planned 4 GB, after 4 GB; S2: before 4 GB, planned 16 GB, after 16 GB',
  )
}, 60_000)

test('a short check offers the reseat, and the run does it', async () => {
  await page.goto('/orders/103')
  await page.locator('.order-head').getByText('✕ short').waitFor()
  await button('Reseat S3').click()
  await page.getByRole('link', { name: 'Begin the run' }).click()
  await page.getByText('reseat of S3').waitFor()
  await doTheRun(103)
  expect(await page.locator('.run-all li').allTextContents()).toContainEqual(
    expect.stringContaining('Seat the module of S3 again'),
  )
}, 60_000)

test('a gate says why, and a missing fastener keeps the machine open', async () => {
  await page.goto('/orders/104/run')
  await page.getByText('All steps').click()
  await button(/Put the left side panel back/).click()
  await button('All 2').click()
  await button('Done').click()
  await page.getByRole('alert').getByText('Nothing closes before the work inside is done').waitFor()

  // What was refused is kept over a reload, until somebody decides.
  await page.reload()
  await page.getByText('Nothing closes before the work inside is done').waitFor()
  await page.getByText('All steps').click()
  await button(/Fit 16 GB into A1/).click()
  await button('Drop it').click()
  for (const title of ['Fit 16 GB into A1', 'Fit 16 GB into B1']) {
    await page.getByRole('heading', { name: title }).waitFor()
    await button('Done').click()
  }
  await page.getByRole('heading', { name: 'Start it with the case open and read the capacity' }).waitFor()
  await button('Done').click()
  await page.getByRole('alert').getByText('Say how much it showed').waitFor()
  await page.getByLabel('The firmware shows').fill('64 GB')
  await button('Done').click()
  await page.getByRole('heading', { name: 'Put the left side panel back' }).waitFor()
  // What was tapped before is still tapped.
  await button('Fastener 2 of 2, side 2').click()
  await button('Done').click()
  await page.getByRole('alert').getByText('1 missing').waitFor()
  await button('Fastener 2 of 2, side 2').click()
  await button('Done').click()
  await page.getByRole('heading', { name: 'Connect mains and start the machine' }).waitFor()
}, 60_000)

test('what another technician does appears on an open board and an open order', async () => {
  const other = await open('tobi')
  await page.goto('/')
  await other.goto('/orders/108')
  await page.getByRole('link', { name: /108/ }).waitFor()
  await other.getByText('Letterpress printer').first().waitFor()
  await service.post('orders/108/park', {
    reason: 'waits for the second module',
  })
  await page
    .getByRole('region', { name: 'Orders by stage' })
    .getByText('waits for the second module')
    .waitFor()
  await other.locator('.order-head').getByText('waits for the second module').waitFor()
  await other.context().close()
})

test('the search finds closed orders', async () => {
  await page.goto('/')
  await page.getByRole('searchbox').fill('NF14-0417')
  await page.getByRole('link', { name: /101/ }).click()
  await page.getByRole('heading', { name: /101 Norrland Fjell 14/ }).waitFor()
})

test('a lost service is told, and the page comes back with it', async () => {
  await page.goto('/')
  await page.getByRole('link', { name: /107/ }).waitFor()
  await service.stop()
  await page.getByRole('status').getByText('Not connected').waitFor()
  await service.start()
  await page.getByText('Saltmarsh Road').waitFor()
  await service.post('orders/107/notes', { text: 'back again' })
  await page.getByRole('link', { name: /107/ }).getByText('Tobi, now').waitFor()
}, 60_000)

test('nobody comes past the door without signing in, and goes on where they were', async () => {
  const context = await page.context().browser()!.newContext({ baseURL: service.url })
  const stranger = await context.newPage()
  await stranger.goto('/orders/107')
  await stranger.getByRole('heading', { name: 'Saltmarsh Road' }).waitFor()
  expect(await stranger.getByRole('heading', { name: /107/ }).count()).toBe(0)
  expect(await faults(stranger)).toEqual([])
  await stranger.getByRole('button', { name: 'Mara Lind' }).click()
  await stranger.getByRole('heading', { name: /107/ }).waitFor()
  const cookie = (await context.cookies()).find((c) => c.name === '__Host-revtal')
  expect([cookie?.httpOnly, cookie?.secure, cookie?.sameSite]).toEqual([true, true, 'Strict'])
  await stranger.getByLabel('Note, or reason').fill('from the cookie')
  await stranger.getByRole('button', { name: 'Add as a note' }).click()
  await stranger.getByText('from the cookie').waitFor()

  // Signed out elsewhere, the page asks again instead of losing what it shows.
  await stranger.goto('/people')
  await stranger.getByRole('button', { name: 'Sign out here' }).click()
  await stranger.getByRole('button', { name: 'Ines Havgard' }).click()
  await stranger.getByRole('heading', { name: 'Who came in' }).waitFor()
  expect(await faults(stranger)).toEqual([])
  await context.close()
})

test('what one person said without a network is not sent as another', async () => {
  const context = await page.context().browser()!.newContext({ baseURL: service.url })
  await signIn(context, service.url, 'mara')
  const tablet = await context.newPage()
  await tablet.goto('/orders/104/run')
  await tablet.getByRole('button', { name: 'Stuck?' }).waitFor()
  await tablet.evaluate(
    () =>
      new Promise<void>((done) => {
        const opening = indexedDB.open('revtal')
        opening.onsuccess = () => {
          const writing = opening.result.transaction('said', 'readwrite')
          writing.objectStore('said').put({
            key: crypto.randomUUID(),
            place: 1,
            order: 104,
            path: 'orders/104/notes',
            body: { text: 'said by Tobi' },
            step: '',
            title: 'a note',
            confirms: false,
            by: 'tobi',
            at: Date.now(),
            ahead: 0,
          })
          writing.oncomplete = () => done()
        }
      }),
  )
  await tablet.reload()
  await tablet.getByText('1 kept here until tobi signs in').waitFor()

  // What is said after it waits behind it.
  await tablet.getByRole('button', { name: 'Note', exact: true }).click()
  await tablet.getByLabel('Note', { exact: true }).fill('said by Mara')
  await tablet.getByRole('button', { name: 'Keep the note' }).click()
  await tablet.getByText('2 kept here until tobi signs in').waitFor()
  await signIn(context, service.url, 'tobi')
  await tablet.reload()
  const heard = async () => {
    const entries = (await service.get('orders/104/entries')) as { items: { by: string }[] }
    return entries.items.filter((e) => JSON.stringify(e).includes('said by Tobi')).map((e) => e.by)
  }
  await expect.poll(heard, { timeout: 10_000 }).toEqual(['tobi'])
  await context.close()
})

test('what is pressed on the run view is 44 px or more', async () => {
  page = await open('mara', { width: 800, height: 1280 })
  await page.goto('/orders/105/run')
  await page.locator('.step h1').waitFor()
  const small = await page.locator('button:visible, a:visible').evaluateAll((all) =>
    all
      .map((e) => ({ text: e.textContent, box: e.getBoundingClientRect() }))
      .filter(({ box }) => box.height < 44 || box.width < 44)
      .map(({ text }) => text),
  )
  expect(small).toEqual([])
})
