import { readFile } from 'node:fs/promises'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { gunzipSync } from 'node:zlib'
import { Webhook } from 'standardwebhooks'
import type { Browser } from 'playwright-core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { faults, openAs } from './browser'
import { launch, startDemo } from './demo.mjs'

let browser: Browser
let service: Awaited<ReturnType<typeof startDemo>>
let books: Server
const came: { headers: Record<string, string>; body: string }[] = []
let answer = 204

beforeAll(async () => {
  service = await startDemo()
  browser = await launch()
  books = createServer((request, response) => {
    let body = ''
    request.on('data', (some) => (body += some))
    request.on('end', () => {
      came.push({ headers: request.headers as Record<string, string>, body })
      response.writeHead(answer).end()
    })
  })
  await new Promise<void>((done) => books.listen(0, '127.0.0.1', done))
}, 60_000)
afterAll(async () => {
  books.close()
  await browser.close()
  await service.end()
})

test('a lead has another program told, which proves our messages by its own library', async () => {
  const ines = await openAs(browser, service.url, 'ines', { width: 1280, height: 800 })
  await ines.goto('/people')
  const others = ines.locator('section', { has: ines.getByRole('heading', { name: 'Other programs' }) })
  await others.getByLabel('A program’s name').fill('book-keeping')
  await others
    .getByLabel('Where it listens')
    .fill(`http://127.0.0.1:${(books.address() as AddressInfo).port}/`)
  await others.getByText('Of what it is told').click()
  await others.getByLabel('note added').check()
  expect(await faults(ines)).toEqual([])
  await others.getByRole('button', { name: 'Tell it', exact: true }).click()
  const secret = await others.getByText(/^whsec_/).innerText()

  const program = others.getByRole('article', { name: 'book-keeping' })
  await program.getByText('It is told of note added.').waitFor()
  await program.getByRole('button', { name: 'Try it' }).click()
  await program.getByText('Taken', { exact: true }).waitFor()
  await service.post('orders/104/notes', { text: 'the customer is cross' })
  await expect.poll(() => came.length).toBe(2)
  const { headers, body } = came[1]!
  const told = new Webhook(secret).verify(body, headers) as { type: string; data: { order: number } }
  expect(told).toMatchObject({ type: 'order.note-added', data: { order: 104, by: 'tobi' } })
  expect(body).not.toContain('cross')
  expect(() => new Webhook(secret).verify(body.replace('104', '105'), headers)).toThrow()

  answer = 410
  await service.post('orders/104/notes', { text: 'once more' })
  await expect.poll(() => came.length).toBe(3)
  await ines.reload()
  await program.getByText('It is told nothing now.').waitFor()
  await program.getByText('1 given up.').waitFor()
  await program.getByRole('button', { name: 'What it was told' }).click()
  await program.getByRole('cell', { name: '410 Gone' }).waitFor()
  expect(await faults(ines)).toEqual([])
  answer = 204
  await program.getByRole('button', { name: 'Tell it again' }).click()
  await program.getByText('It is told of note added.').waitFor()
  await program.getByRole('button', { name: 'Send again what was given up (1)' }).click()
  await expect.poll(() => came.length).toBe(4)
  expect(came[3]!.headers['webhook-id']).toBe(came[2]!.headers['webhook-id'])
  await program.getByRole('button', { name: 'End it' }).click()
  await program.getByRole('button', { name: /^Yes/ }).click()
  await others.getByText('None yet.').waitFor()
}, 90_000)

test('a lead has the store looked through and takes a backup away; a technician is not asked', async () => {
  const ines = await openAs(browser, service.url, 'ines', { width: 800, height: 1280 })
  await ines.goto('/')
  await ines.getByRole('link', { name: 'Store !' }).click()
  await ines.getByText('There is no backup, and none is made by itself').waitFor()
  const store = ines.getByRole('region', { name: 'Whether it is what was recorded' })
  await store.getByText('Each entry proves the one before it.').waitFor()
  await store.getByRole('button', { name: 'Look through it' }).click()
  await store.getByText('all of it is as it was recorded').waitFor()
  await store.getByText(/^.*: 36 of 36 orders, [0-9]+ entries/).waitFor()
  expect(await faults(ines)).toEqual([])

  const download = ines.waitForEvent('download')
  await ines.getByRole('link', { name: 'Take one away' }).click()
  const file = await download
  expect(file.suggestedFilename()).toMatch(/^revtal-.*\.jsonl\.gz$/)
  const lines = gunzipSync(await readFile(await file.path()))
    .toString()
    .trimEnd()
    .split('\n')
  expect(JSON.parse(lines[0])).toMatchObject({ format: 'revtal-backup/1' })
  expect(lines.filter((l) => l.startsWith('[')).length).toBe(
    (JSON.parse(lines.at(-1)!) as { rows: number }).rows,
  )
  await ines.reload()
  await ines.getByText(/^taken away: [0-9]+ rows/).waitFor()
  expect(await ines.getByText('There is no backup').count()).toBe(0)

  const mara = await openAs(browser, service.url, 'mara', { width: 800, height: 1280 })
  await mara.goto('/people')
  await mara.getByRole('heading', { name: 'Signed in' }).waitFor()
  expect(await mara.getByRole('link', { name: 'Store' }).count()).toBe(0)
  await mara.goto('/store')
  await mara.getByText('The store is looked through by a lead.').waitFor()
}, 60_000)
