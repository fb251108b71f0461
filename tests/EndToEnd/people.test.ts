import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { faults } from './browser'
import { launch, startDemo } from './demo.mjs'

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
  await again.getByRole('heading', { name: 'Parts' }).waitFor()

  // Locked out by the lead, the open page asks again at its next step.
  await row.getByRole('button', { name: 'Lock out' }).click()
  await row.getByRole('button', { name: /is locked out/ }).click()
  await row.getByText('can sign in no longer').waitFor()
  await again.getByRole('link', { name: 'Guides' }).click()
  await again.getByLabel('Your id').waitFor()
}, 60_000)
