import { execFileSync, spawn } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { chromium } from 'playwright-core'

export const root = resolve(import.meta.dirname, '../..')

/** Debian's Chromium, quiet and with nothing remembered. */
export const launch = (more = []) =>
    chromium.launch({
        executablePath: '/usr/bin/chromium',
        args: [
            '--no-sandbox',
            '--disable-gpu',
            '--disable-quic',
            '--no-first-run',
            '--disable-background-networking',
            '--disable-component-update',
            '--disable-sync',
            ...more,
        ],
    })

const tokens = new Map()

/** What proves that it is this one of the demo's people. */
export async function tokenOf(url, person) {
    const name = `${url} ${person}`
    if (!tokens.has(name)) {
        const answer = await fetch(`${url}/api/v1/session/demo`, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ person, tokenName: 'tests' }),
        })
        if (!answer.ok) throw new Error(await answer.text())
        tokens.set(name, (await answer.json()).token)
    }
    return tokens.get(name)
}

/** The same as a header. */
export const bearer = async (url, person) => ({ Authorization: `Bearer ${await tokenOf(url, person)}` })

/** Has this one of the demo's people sit at a browser. */
export const signIn = async (context, url, person) =>
    context.addCookies([
        {
            name: '__Host-revtal',
            value: await tokenOf(url, person),
            url: url.replace('http:', 'https:'),
            httpOnly: true,
            secure: true,
            sameSite: 'Strict',
        },
    ])

/** A file by which the command line is signed in as all of these. */
export async function signIns(url, people) {
    const file = join(mkdtempSync(join(tmpdir(), 'revtal-signed-in-')), 'sign-ins.json')
    const all = people.map(async (person) => ({
        service: url,
        person,
        token: await tokenOf(url, person),
        expiresAt: '9999-12-31T00:00:00Z',
    }))
    writeFileSync(file, JSON.stringify(await Promise.all(all)))
    return file
}

/** A service's interface, asked by the demo's people. */
export const at = (url) => ({
    async get(path) {
        return (await fetch(`${url}/api/v1/${path}`, { headers: await bearer(url, 'tobi') })).json()
    },
    /** A change made elsewhere: another technician at another screen. */
    async post(path, body, person = 'tobi') {
        const answer = await fetch(`${url}/api/v1/${path}`, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json', ...(await bearer(url, person)) },
            body: JSON.stringify(body),
        })
        if (!answer.ok) throw new Error(await answer.text())
        return answer.json()
    },
})

let made = 0

/** Where the tests' own server has a place for one more shop; nowhere else than in its folder without one. */
function newStore() {
    const port = process.env.REVTAL_TEST_SERVER
    if (!port) return []
    const name = `shop_${process.pid}_${++made}`
    execFileSync('createdb', ['-h', '127.0.0.1', '-p', port, '-U', 'revtal', '-T', 'template0', name])
    return ['--store', `Host=127.0.0.1;Port=${port};Database=${name};Username=revtal`]
}

/** The built service with the demo data, in a folder of its own: empty, or a copy of one that was filled. */
export async function startDemo({ like, more = [], program = 'revtal-demo' } = {}) {
    const folder = mkdtempSync(join(tmpdir(), 'revtal-e2e-'))
    if (like) cpSync(like, folder, { recursive: true })
    const store = like ? [] : newStore()
    let child
    let log = ''
    // The system gives the first start a free port; a later one comes back where it was.
    const start = (port, settings = []) =>
        new Promise((ready, failed) => {
            const args = [
                '--data',
                folder,
                '--urls',
                `http://127.0.0.1:${port}`,
                '--shop:name',
                'Saltmarsh Road',
                ...store,
                ...more,
                ...settings,
            ]
            child = spawn(join(root, 'bin', program), args, { stdio: ['ignore', 'pipe', 'inherit'] })
            log = ''
            child.stdout.on('data', (text) => {
                log += text
                const url = /listens on (http:[^ ",]+)/.exec(log)?.[1]
                if (url) ready(url)
            })
            child.once('exit', (code) =>
                failed(new Error(`The service ended with ${code}. Build it first: make build.`)),
            )
        })
    const stop = () =>
        new Promise((done) => {
            child.once('exit', () => done())
            child.kill('SIGTERM')
        })
    const url = await start(0)
    return {
        url,
        folder,
        stop,
        start: (settings) => start(new URL(url).port, settings),
        log: () => log,
        ...at(url),
        async end() {
            await stop()
            rmSync(folder, { recursive: true })
        },
    }
}
