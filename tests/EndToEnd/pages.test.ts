import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { faults, openAs } from './browser'
import { launch, startDemo } from './demo.mjs'

let browser: Browser
let service: Awaited<ReturnType<typeof startDemo>>
let page: Page
// Words of any length and of any script, in every place where people write.
let full = 0

beforeAll(async () => {
  service = await startDemo()
  browser = await launch()
  const long = 'Donaudampfschiff'.repeat(19)
  const taken = await service.post('orders', {
    model: 'FJ14',
    customer: long.slice(0, 200),
    contact: long.slice(0, 200),
    complaint: long,
    serial: 'N'.repeat(60),
    goal: 'לקרוא את הספרים',
    accessories: '充電器と鞄',
    condition: long,
  })
  full = taken.order
  await service.post(`orders/${full}/notes`, { text: long })
  await service.post(`orders/${full}/notes`, { text: '@ines: שלום, 電池が膨らんでいます' })
  await service.post(`orders/${full}/place`, { place: long.slice(0, 40) })
  await service.post(`orders/${full}/owner`, { owner: 'ines', word: long })
  page = await openAs(browser, service.url, 'ines', { width: 1280, height: 800 })
  await page.emulateMedia({ reducedMotion: 'reduce' })
}, 60_000)
afterAll(async () => {
  await browser.close()
  await service.end()
})

const pages = [
  '/',
  '/?by=person',
  '/take-in',
  '/people',
  '/store',
  '/notices',
  '/invoices',
  '/kept',
  '/parts',
  '/dummies',
  '/guides',
  '/guides/FJ14',
  '/guides/FJ14/edit',
  '/guides/QT40/compare',
  '/batches/125',
  '/batches/125/run',
  '/orders/101',
  '/orders/105/run',
  '/orders/107',
  '/orders/107/plan',
  '/orders/110',
  '/orders/110/check',
  '/orders/111/run',
  '/orders/117',
  '/orders/117/plan',
  '/orders/119',
  '/orders/120',
  '/orders/FULL',
  '/orders/FULL/plan',
  '/orders/none',
  '/nothing',
  '/set-up',
  '/tablet',
]

test.each(pages)(
  '%s is in nobody’s way: light and dark, from the phone to the wide screen, whatever was written',
  async (path) => {
    await page.setViewportSize({ width: 1280, height: 800 })
    await page.goto(path.replace('FULL', String(full)))
    await page.locator('h1').first().waitFor()
    await page.waitForLoadState('networkidle')
    for (const width of [2560, 1280, 800, 390]) {
      await page.setViewportSize({ width, height: 900 })
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
      for (const colorScheme of ['light', 'dark'] as const) {
        await page.emulateMedia({ colorScheme })
        await page.waitForFunction(
          (wanted) => document.documentElement.dataset['mantineColorScheme'] === wanted,
          colorScheme,
        )
        expect(await faults(page)).toEqual([])
      }
    }
  },
  60_000,
)
