import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'

const root = resolve(import.meta.dirname, '../..')
export const capture = (name: string) =>
  ['smbios_entry_point', 'DMI', 'meminfo'].map((file) => join(root, 'tests/data/captures', name, file))

const freePort = () =>
  new Promise<number>((found) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo
      server.close(() => found(port))
    })
  })

/** The built service with the demo data, on a free port and in a folder of its own. */
export async function startDemo() {
  const folder = mkdtempSync(join(tmpdir(), 'revtal-e2e-'))
  const url = `http://127.0.0.1:${await freePort()}`
  let child: ChildProcess
  const start = async () => {
    child = spawn(
      join(root, 'bin/revtal-demo'),
      ['--data', folder, '--urls', url, '--shop:name', 'Saltmarsh Road'],
      {
        stdio: 'ignore',
      },
    )
    for (let tries = 0; tries < 300; tries++) {
      const ready = await fetch(`${url}/readyz`).then(
        (r) => r.ok,
        () => false,
      )
      if (ready) return
      await new Promise((wait) => setTimeout(wait, 50))
    }
    throw new Error('The service did not become ready. Build it first: make build.')
  }
  const stop = () =>
    new Promise<void>((done) => {
      child.once('exit', () => done())
      child.kill('SIGTERM')
    })
  await start()
  return {
    url,
    start,
    stop,
    /** A change made elsewhere: another technician at another screen. */
    async post(path: string, body: unknown, person = 'tobi') {
      const answer = await fetch(`${url}/api/v1/${path}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'Revtal-As': person },
        body: JSON.stringify(body),
      })
      if (!answer.ok) throw new Error(await answer.text())
      return answer.json()
    },
    async end() {
      await stop()
      rmSync(folder, { recursive: true })
    },
  }
}
