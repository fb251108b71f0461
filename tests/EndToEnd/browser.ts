import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import type { Browser, Page } from 'playwright-core'
import { root, signIn } from './demo.mjs'

/** A page of its own on which this person is at work (nobody: “”); the context goes with it. */
export async function openAs(
  browser: Browser,
  baseURL: string,
  person: string,
  viewport: { width: number; height: number },
): Promise<Page> {
  const context = await browser.newContext({ viewport, baseURL })
  if (person) await signIn(context, baseURL, person)
  const page = await context.newPage()
  page.setDefaultTimeout(15_000)
  return page
}

/** A picture, as a camera would give one. */
export const png = readFileSync(join(root, 'console', 'public', 'mark-192.png'))

/** A barcode wedge: keys faster than a hand's, then Enter. */
export const scan = (on: Page, text: string) =>
  on.evaluate((keys) => {
    for (const key of [...keys, 'Enter'])
      (document.activeElement ?? document.body).dispatchEvent(
        new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
      )
  }, text)

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What a machine finds wrong with a page. */
export async function faults(on: Page): Promise<string[]> {
  await on.evaluate(axe)
  return on.evaluate(async () => {
    const found = await (
      window as unknown as {
        axe: {
          run(): Promise<{
            violations: { id: string; nodes: { html: string }[] }[]
          }>
        }
      }
    ).axe.run()
    return found.violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)
  })
}
