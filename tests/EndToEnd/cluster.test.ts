import { spawn } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { openAs } from './browser'
import { at, launch, root } from './demo.mjs'

// Below the ports that the system gives to others.
const port = 20_000 + 10 * Math.floor(Math.random() * 1_000)
const url = `http://127.0.0.1:${port}`
const instances = [2, 3, 4].map((n) => `http://127.0.0.1:${port + n}`)

/** Processes with this on their command line. */
const running = (what: string) =>
  readdirSync('/proc')
    .filter((process) => /^\d+$/.test(process))
    .filter((process) => {
      try {
        return readFileSync(`/proc/${process}/cmdline`, 'utf8').replaceAll('\0', ' ').includes(what)
      } catch {
        return false // It has ended meanwhile.
      }
    })

test('three instances are one shop, one may die, and all of it ends clean', async () => {
  const cluster = spawn(join(root, 'src/Revtal.Demo/cluster'), [`${port}`], {
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const ended = new Promise<number | null>((done) => cluster.once('exit', done))
  let said = ''
  cluster.stdout.on('data', (text) => (said += text))
  const browser = await launch()
  try {
    await expect.poll(() => said, { timeout: 150_000, interval: 200 }).toContain(url)
    const shop = at(url)
    const mara = await openAs(browser, url, 'mara', { width: 1280, height: 800 })
    await mara.goto('/orders/104')
    await mara.getByRole('heading', { name: /104/ }).first().waitFor()

    // Whichever instance is told, and whichever the page hears.
    for (const instance of instances) {
      await at(instance).post('orders/104/notes', { text: `said at ${instance}` })
      await mara.getByText(`said at ${instance}`).waitFor()
    }
    await mara.getByLabel(/^Note/).fill('said on the screen')
    await mara.getByRole('button', { name: 'Add as a note' }).click()
    await mara.getByText('said on the screen').last().waitFor()
    const told = await Promise.all(instances.map((instance) => at(instance).get('orders/104')))
    expect(told.map((order) => order.head)).toEqual(Array(3).fill(told[0].head))
    expect(JSON.stringify(told[2].journal)).toContain('said on the screen')

    const [dies] = running(`--urls ${instances[1]} `)
    process.kill(Number(dies), 'SIGKILL')
    for (let n = 1; n <= 6; n++) {
      const note = { text: `after one has died, ${n}` }
      // A connection that was open to the dead one is answered by the proxy: nobody took that, so it is sent again.
      await shop.post('orders/104/notes', note).catch(() => shop.post('orders/104/notes', note))
    }
    await mara.getByText('after one has died, 6').waitFor({ timeout: 30_000 })
    const after = await at(instances[2]).get('orders/104')
    expect(after.head).toBe(told[0].head + 6)
  } finally {
    await browser.close()
    cluster.kill('SIGTERM')
  }
  expect(await ended).toBe(0)
  expect(running(`Port=${port + 1};`)).toEqual([])
  expect(running(`-p ${port + 1} `)).toEqual([])
  await expect(fetch(url)).rejects.toThrow()
}, 240_000)
