import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { expect, test } from 'vitest'
import { faults } from './browser'
import { everyTest, type Scene } from './scene'

let service: Scene['service']
let open: Scene['open']
everyTest({ width: 1280, height: 800 }, (scene) => ({ service, open } = scene))

const sheet = (page: Page) => page.getByRole('region', { name: 'FJ14 of Elsewhere' })

test("another shop's guide stands beside ours, and what is chosen of both is the draft", async () => {
  const file = (await service.get('guides/FJ14/exchange')) as { shop: string; revisions: string[] }
  file.shop = 'Elsewhere'
  const newest = file.revisions.at(-1)!
  expect(newest).toContain('2021..2023')
  file.revisions.push(newest.replace('2021..2023', '2021..2024').replaceAll('angle: 30', 'angle: 25'))
  const path = join(service.folder, 'fj14.json')
  writeFileSync(path, JSON.stringify(file))
  const page = await open('ines')
  await page.goto('/guides')
  await page.locator('input[type=file]').first().setInputFiles(path)
  await sheet(page).getByText('in common: our revision 1').waitFor()
  // What they alone changed is taken, unless a hand says otherwise.
  expect(await page.getByLabel('model.built: theirs').isChecked()).toBe(true)
  await page.getByLabel('memory.slots[S1].angle: ours').check()
  expect(await faults(page)).toEqual([])
  await page.getByRole('button', { name: 'Make a draft of both' }).click()
  await page.waitForURL('**/guides/FJ14/edit')
  const { yaml } = (await service.get('guides/FJ14/draft')) as { yaml: string }
  expect(yaml).toContain('2021..2024')
  expect(yaml.match(/angle: 30/g)?.length).toBe(1)
  expect(yaml.match(/angle: 25/g)?.length).toBe(1)
}, 60_000)
