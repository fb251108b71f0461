import { rmSync } from 'node:fs'
import { join } from 'node:path'
import type { Browser, Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, beforeEach, expect } from 'vitest'
import { openAs } from './browser'
import { launch, root, startDemo } from './demo.mjs'

export type Service = Awaited<ReturnType<typeof startDemo>>
export type Scene = {
  service: Service
  page: Page
  /** Another screen, on which this person is at work. */
  open: (person: string, viewport?: { width: number; height: number }) => Promise<Page>
}

type Step = {
  step: { id: string; part: string; looseFasteners: number; timedFrom: string | null; records: string[] }
  done: object | null
}
type Run = { plan: { expectation: { installed: number } }; run: { steps: Step[] } }

export const stepsOf = async (service: Service, order: number) =>
  ((await service.get(`orders/${order}`)) as Run).run.steps

/** The steps before this one, confirmed by another hand; a lead waives the cooling. */
export async function doUpTo(service: Service, order: number, step: string) {
  const { plan, run } = (await service.get(`orders/${order}`)) as Run
  for (const { step: next, done } of run.steps) {
    if (next.id === step) return
    if (done) continue
    if (next.timedFrom) {
      const waiver = { gate: 'still-cooling', step: next.id, reason: 'came in cold' }
      await service.post(`orders/${order}/waivers`, waiver, 'ines')
    }
    await service.post(`orders/${order}/steps/${next.id}`, {
      fasteners: next.looseFasteners || null,
      seen: next.part === 'measure' ? plan.expectation.installed : null,
      occupants:
        next.records.length > 0 && next.id !== 'record.modules'
          ? Object.fromEntries(next.records.map((bay) => [bay, `SN-${bay}`]))
          : null,
    })
  }
}

export const capture = (name: string) =>
  ['smbios_entry_point', 'DMI', 'meminfo'].map((file) => join(root, 'tests/data/captures', name, file))

/**
 * Gives each test a demo shop of its own as it was on its first morning, and a page on it: what one test does, no
 * other sees.
 */
export function everyTest(screen: { width: number; height: number }, set: (scene: Scene) => void) {
  let browser: Browser
  let morning: string
  let service: Service
  let page: Page
  let complaints: string[]

  beforeAll(async () => {
    const [filled, launched] = await Promise.all([startDemo(), launch()])
    browser = launched
    await filled.stop()
    morning = filled.folder
  }, 60_000)
  afterAll(async () => {
    await browser.close()
    rmSync(morning, { recursive: true })
  })
  beforeEach(async () => {
    service = await startDemo({ like: morning })
    const open: Scene['open'] = (person, viewport = screen) => openAs(browser, service.url, person, viewport)
    page = await open('mara')
    complaints = []
    page.on('pageerror', (error) => complaints.push(error.message))
    page.on('console', (message) => {
      // What the service refuses, and a network that is gone, the browser tells by itself.
      if (message.type() === 'error' && !/status of 4\d\d|net::ERR_/.test(message.text()))
        complaints.push(message.text())
    })
    set({ service, page, open })
  }, 30_000)
  afterEach(async () => {
    await page.context().close()
    for (const context of browser.contexts()) await context.close()
    await service.end()
    expect(complaints).toEqual([])
  }, 30_000)
}
