import { appendFileSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { faults, openAs, png } from './browser'
import { launch, root, startDemo } from './demo.mjs'

let browser: Browser
let service: Awaited<ReturnType<typeof startDemo>>
const tablet = { width: 800, height: 1280 }

beforeAll(async () => {
  service = await startDemo()
  browser = await launch()
}, 60_000)
afterAll(async () => {
  await browser.close()
  await service.end()
})

type Line = { kind: string; text: string; at: string; said: { at: string; clockOff: boolean } | null }
type Order = {
  head: number
  journal: Line[]
  photos: unknown[]
  run: { nextStep: string; steps: { step: { id: string; title: string } }[] }
}
const order = (number: number) => service.get(`orders/${number}`) as Promise<Order>

/** Opened once, with all that it keeps for later. */
async function kept(person: string, number: number): Promise<Page> {
  const page = await openAs(browser, service.url, person, tablet)
  await page.goto('/')
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
  // What is in its people's hands comes by itself: the order was never opened here.
  await page.goto('/kept')
  await expect
    .poll(() => page.getByRole('link', { name: String(number), exact: true }).count(), { timeout: 20_000 })
    .toBe(1)
  return page
}

const button = (page: Page, name: string) => page.getByRole('button', { name, exact: true })

test('the run opens without a network, goes on over a reload, and arrives once with when it was said', async () => {
  await service.post('orders/104/owner', { owner: 'mara' })
  const before = await order(104)
  const page = await kept('mara', 104)
  await page.context().setOffline(true)
  await service.stop()

  await page.goto('/orders/104/run')
  const first = before.run.steps.find((s) => s.step.id === before.run.nextStep)!.step
  await page.getByRole('heading', { name: first.title }).waitFor()
  await page.getByText('Not connected').waitFor()
  expect(await faults(page)).toEqual([])
  await button(page, 'Note').click()
  await page.getByLabel('Note', { exact: true }).fill('the lid squeaks')
  await button(page, 'Keep the note').click()
  await button(page, 'Photo').click()
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'lid.png', mimeType: 'image/png', buffer: png })
  await page.getByRole('img', { name: 'Photo, on its way' }).waitFor()
  await page.reload()
  await page.getByRole('img', { name: 'Photo, on its way' }).waitFor()
  const done = button(page, 'Done')
  await done.click()
  await expect.poll(() => page.getByRole('heading', { name: first.title, level: 1 }).count()).toBe(0)
  await page.getByText('3 kept here').waitFor()

  await page.goto('/kept')
  await page.getByText('the lid squeaks').waitFor()
  expect(await faults(page)).toEqual([])
  await page.goto('/orders/104')
  await page.getByText('as of').first().waitFor()
  await page.goto('/orders/104/run')
  // Longer ago than what is taken for now.
  await page.waitForTimeout(5_000)

  await service.start()
  await page.context().setOffline(false)
  await expect.poll(async () => (await order(104)).head, { timeout: 30_000 }).toBe(before.head + 3)
  await page.waitForTimeout(4_000)
  const after = await order(104)
  expect(after.head).toBe(before.head + 3)
  expect(after.photos).toHaveLength(before.photos.length + 1)
  const lines = after.journal.slice(before.head)
  expect(lines.map((l) => l.kind.split('/')[0])).toEqual(['note-added', 'photo-taken', 'step-confirmed'])
  for (const line of lines) {
    expect(line.said?.clockOff).toBe(false)
    expect(Date.parse(line.at) - Date.parse(line.said!.at)).toBeGreaterThan(4_000)
  }
  await expect.poll(() => page.getByText('kept here').count()).toBe(0)
}, 120_000)

test('a gate that the tablet knows of holds without a network too', async () => {
  // The guide of NS13 wants ten minutes from the shut-down.
  await service.post('orders/105/owner', { owner: 'mara' })
  const steps = (await order(105)).run.steps.map((s) => s.step)
  const cools = steps.findIndex((s) => s.id === 'isolate.cool-down')
  const page = await kept('mara', 105)
  await page.context().setOffline(true)
  await page.goto('/orders/105/run')
  const heading = (i: number) => page.getByRole('heading', { name: steps[i]!.title, level: 1 })
  const next = (await order(105)).run.nextStep
  for (let i = steps.findIndex((s) => s.id === next); i < cools; i++) {
    await heading(i).waitFor()
    await button(page, 'Done').click()
  }
  await heading(cools).waitFor()
  await page.getByText(/9:\d\d left/).waitFor()
  await button(page, 'Done').click()
  await page.getByText('Still cooling: 9 min').waitFor()
  await heading(cools).waitFor()
  await page.context().setOffline(false)
  await expect
    .poll(async () => (await order(105)).run.nextStep, { timeout: 30_000 })
    .toBe('isolate.cool-down')
}, 120_000)

test('a newer console waits while a run is open, and is loaded when somebody says so', async () => {
  const page = await kept('mara', 104)
  await page.goto('/orders/104/run')
  await button(page, 'Done').waitFor()
  const script = join(root, 'build', 'revtald', 'wwwroot', 'sw.js')
  const whole = readFileSync(script)
  try {
    appendFileSync(script, '\n// newer\n')
    await page.evaluate(async () => {
      ;(window as unknown as { stays: boolean }).stays = true
      await (await navigator.serviceWorker.ready).update()
    })
    const board = await page.context().newPage()
    await board.goto('/')
    const load = board.getByRole('button', { name: 'Load it' })
    await load.waitFor()
    expect(await faults(board)).toEqual([])
    await load.click()
    await load.waitFor({ state: 'detached' })
    await board.getByRole('link', { name: 'Take in', exact: true }).waitFor()
    // The run in the other tab is as it was.
    expect(await page.evaluate(() => (window as unknown as { stays?: boolean }).stays)).toBe(true)
    await button(page, 'Done').waitFor()
  } finally {
    writeFileSync(script, whole)
  }
}, 90_000)

test('who signs out leaves nothing of the shop behind', async () => {
  const page = await kept('mara', 104)
  await page.goto('/people')
  await button(page, 'Sign out here').click()
  await page.getByText('Who are you today?').waitFor()
  const left = () =>
    page.evaluate(
      () =>
        new Promise<string[]>((done) => {
          const opening = indexedDB.open('revtal')
          opening.onsuccess = () => {
            const all = opening.result.transaction('kept').objectStore('kept').getAllKeys()
            all.onsuccess = () => {
              opening.result.close()
              done(all.result.map(String))
            }
          }
        }),
    )
  await expect.poll(left).toEqual(['session'])
  expect(await page.evaluate(() => caches.has('revtal-pictures'))).toBe(false)
}, 90_000)
