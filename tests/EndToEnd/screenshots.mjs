// Takes the pictures of docs/screenshots from the demo data: make screenshots.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bearer, launch, root, signIn, signIns, startDemo } from './demo.mjs'

const service = await startDemo({
    more: ['--shop:taxPercent', '19', '--backup:folder', mkdtempSync(join(tmpdir(), 'revtal-backups-'))],
})
const { url } = service
const browser = await launch()
// The command line is signed in as each of them; last as who is at the desk.
process.env.REVTAL_SIGN_INS = await signIns(url, ['ines', 'mara', 'tobi', 'juno', 'pell', 'sanne'])

async function page(width, height, colorScheme = 'light', person = 'mara') {
    const context = await browser.newContext({
        viewport: { width, height },
        colorScheme,
        baseURL: url,
    })
    await signIn(context, url, person)
    return context.newPage()
}

async function shoot(
    name,
    path,
    width = 1280,
    height = 800,
    scheme = 'light',
    before = async () => {},
    person = 'mara',
) {
    const p = await page(width, height, scheme, person)
    await p.goto(path, { waitUntil: 'load' })
    await p.locator('h1').first().waitFor()
    await before(p)
    await p.waitForTimeout(400)
    await p.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) })
    await p.context().close()
}

// A terminal's output as a picture: its own text, in the console's type, on a dark ground.
async function terminal(name, ...commands) {
    const text = commands
        .map((args) => {
            const out = execFileSync(join(root, 'bin/revtal'), args, {
                env: {
                    ...process.env,
                    REVTAL_SERVICE: url,
                    REVTAL_TERMINAL: '1',
                    COLUMNS: '132',
                },
                encoding: 'utf8',
                cwd: root,
            })
            return `$ revtal ${args.join(' ')}\n${out}`
        })
        .join('\n')
    const p = await page(1280, 800, 'dark')
    await p.goto(`${url}/`)
    await p.evaluate((text) => {
        document.body.replaceChildren()
        const pre = document.createElement('pre')
        pre.textContent = text
        Object.assign(pre.style, {
            margin: 0,
            padding: '20px 24px',
            font: '14px/1.3 "Atkinson Hyperlegible Mono", monospace',
            whiteSpace: 'pre',
            color: '#e9eee9',
            background: '#0f1d1c',
        })
        document.body.append(pre)
    }, text)
    await p.locator('pre').screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) })
    await p.context().close()
}

const asked = async (path, person, body, method = 'POST') => {
    const answer = await fetch(`${url}/api/v1/${path}`, {
        method,
        headers: { 'Content-Type': 'application/json', ...(await bearer(url, person)) },
        body: JSON.stringify(body),
    })
    if (!answer.ok) throw new Error(await answer.text())
    return answer.status === 204 ? null : answer.json()
}

// One bench on every screen: the wall, a phone, a tablet that asks whose hands, an order on a tablet, a
// run without a network; in one picture.
async function bench() {
    await asked('shop/people/wall', 'ines', { name: 'Wall', role: 'wall' }, 'PUT')
    for (const person of ['mara', 'tobi', 'juno', 'pell']) await asked('session/pin', person, { pin: '4071' })
    const tablet = await asked('shop/tablets', 'ines', { name: 'Bench 2' })
    const taken = []
    const take = async (p, ready) => {
        await ready(p)
        await p.waitForTimeout(500)
        taken.push((await p.screenshot()).toString('base64'))
        await p.context().close()
    }
    const wall = await page(1920, 1080, 'light', 'wall')
    await wall.goto('/')
    await take(wall, (p) => p.getByRole('heading', { name: /orders open/ }).waitFor())
    const phone = await page(390, 844)
    await phone.goto('/')
    await take(phone, (p) => p.locator('.due-list').waitFor())
    const hands = await (
        await browser.newContext({ viewport: { width: 800, height: 1280 }, baseURL: url })
    ).newPage()
    await hands.goto(tablet.link)
    await hands.getByRole('button', { name: /Make this screen/ }).click()
    await take(hands, (p) => p.getByRole('heading', { name: /Whose hands/ }).waitFor())
    const order = await page(800, 1280)
    await order.goto('/orders/103')
    await take(order, (p) => p.locator('h1').waitFor())
    const away = await page(800, 1280)
    await away.goto('/orders/104/run')
    await away.locator('.step h1').waitFor()
    await away.context().setOffline(true)
    await away.getByText('Not connected').waitFor()
    await away.getByRole('button', { name: 'Done', exact: true }).click()
    await away.getByText('1 kept here').waitFor()
    await away.getByRole('button', { name: 'Note', exact: true }).click()
    await away.getByLabel('Note', { exact: true }).fill('the clip of B1 is stiff')
    await away.getByRole('button', { name: 'Keep the note' }).click()
    await take(away, (p) => p.getByText('2 kept here').waitFor())
    const store = await page(800, 1280, 'light', 'ines')
    await store.goto('/store')
    await store.getByRole('button', { name: 'Make one now' }).click()
    await store.getByRole('button', { name: 'Look through it' }).click()
    await store.getByText('all of it is as it was recorded').waitFor()
    // Where it lies on the machine that takes the pictures is nobody's business.
    await take(store, async (p) => {
        await p.getByText('proved').first().waitFor()
        await p.evaluate(() => {
            for (const place of document.querySelectorAll('.place'))
                place.textContent = place.textContent
                    .replace(/\/[^ ]*\/revtal-(e2e|backups)-[^/ ]*/, '/var/lib/revtal')
                    .replace(/^\S+ http:.*/, 'bench http://127.0.0.1:7420')
        })
    })
    const sheet = await (await browser.newContext({ viewport: { width: 1600, height: 1330 } })).newPage()
    const [w, f, h, o, r, s] = taken.map((t) => `data:image/png;base64,${t}`)
    await sheet.setContent(`<body style="margin:0;padding:24px;background:#e8e3d6;display:grid;gap:24px">
        <img src="${w}" style="width:1552px;border-radius:6px">
        <div style="display:flex;gap:24px;justify-content:space-between">
        <img src="${f}" style="height:490px;border-radius:6px"><img src="${h}" style="height:490px;border-radius:6px">
        <img src="${o}" style="height:490px;border-radius:6px">
        <img src="${r}" style="height:490px;border-radius:6px">
        <img src="${s}" style="height:490px;border-radius:6px"></div></body>`)
    await sheet.screenshot({ path: join(root, 'docs/screenshots/bench.png'), fullPage: true })
    await sheet.context().close()
}

try {
    await shoot('board', '/')
    await shoot('swap-test', '/orders/119', 1280, 1000, 'dark', (p) => p.evaluate(() => scrollTo(0, 330)))
    await shoot('load', '/orders/102', 1280, 1250, 'light', async (p) => {
        await p.getByText('Benchmarks and load', { exact: true }).last().click()
        await p.getByRole('figure', { name: 'Load after' }).waitFor()
        await p.evaluate(() => document.querySelector('#scores').scrollIntoView())
    })
    await shoot('plan', '/orders/107/plan', 1280, 900, 'light', async (p) => {
        await p.getByRole('button', { name: /Add 4 × 16 GB/ }).click()
        await p.getByRole('tab', { name: 'Drives' }).click()
        await p
            .getByRole('button', { name: /replaces 500 GB in F1/ })
            .first()
            .waitFor()
        await p.waitForTimeout(400)
    })
    await shoot('parts', '/parts', 1280, 800, 'light', (p) =>
        p.getByRole('button', { name: 'BN-1T' }).click(),
    )
    const offer = JSON.parse(
        execFileSync(join(root, 'bin/revtal'), ['plan', 'link', '106', '--json', '--as', 'sanne'], {
            env: { ...process.env, REVTAL_SERVICE: url },
            encoding: 'utf8',
        }),
    )
    await shoot('quote', new URL(offer.link).pathname, 390, 940)
    await shoot('check', '/orders/103/check')
    await shoot('run', '/orders/104/run', 1024, 768)
    const mara = { REVTAL_SERVICE: url, REVTAL_AS: 'mara' }
    const revtal = (env, ...args) =>
        execFileSync(join(root, 'bin/revtal'), args, {
            env: { ...process.env, ...mara, ...env },
            encoding: 'utf8',
        })
    for (const step of [
        'prepare.bench',
        ...['shut-down-not-sleep', 'unplug', 'clear-mat', 'lay-face-down'].map((s) => `isolate.${s}`),
    ])
        revtal({}, 'run', 'done', '105', step)
    revtal(
        { REVTAL_AS: 'ines' },
        'run',
        'waive',
        '105',
        'still-cooling',
        '--step',
        'isolate.cool-down',
        '--reason',
        'came in cold',
    )
    revtal({}, 'run', 'done', '105', 'isolate.cool-down')
    revtal({}, 'run', 'done', '105', 'isolate.ground-yourself')
    await shoot('run-open', '/orders/105/run', 800, 1280, 'light', async (p) => {
        await p.getByRole('button', { name: 'base-long 1' }).click()
        await p.getByRole('button', { name: 'base-short 2' }).click()
        await p.getByRole('button', { name: 'Stuck?' }).click()
    })
    await shoot('batch', '/batches/125', 1280, 900)
    await shoot(
        'sketch-run',
        '/orders/124/run',
        800,
        1280,
        'light',
        async (p) => {
            const press = (name) => p.getByRole('button', { name, exact: true }).click()
            await press('shield')
            for (let i = 0; i < 3; i++) await press('How many: one more')
            await press('PH00')
            await p.getByLabel('Length in mm').fill('2')
            await p.getByLabel('Hidden where').fill('under the foil')
            await p.evaluate(() => scrollTo(0, 220))
        },
        'pell',
    )
    revtal({}, 'run', 'paper', '105', '-o', join(service.folder, 'run.pdf'))
    revtal({ REVTAL_AS: 'sanne' }, 'report', 'make', '102')
    revtal({ REVTAL_AS: 'sanne' }, 'report', 'save', '102', '--pdf', join(service.folder, 'report.pdf'))
    const feet = ['New rubber feet', '--price', '8.50', '--agreed-by', 'A. Pressel']
    revtal({ REVTAL_AS: 'sanne' }, 'order', 'extra', '102', ...feet)
    revtal({ REVTAL_AS: 'sanne' }, 'order', 'charge', '102')
    revtal({ REVTAL_AS: 'sanne' }, 'order', 'pay', '102', '40', '--way', 'card')
    revtal({ REVTAL_AS: 'sanne' }, 'order', 'invoice', '102', '--pdf', join(service.folder, 'invoice.pdf'))
    const sheets = ['report', 'invoice', 'run'].map((paper) => {
        const to = join(service.folder, paper)
        execFileSync('pdftoppm', ['-r', '80', '-png', '-singlefile', '-l', '1', `${to}.pdf`, to])
        return `<img src="data:image/png;base64,${readFileSync(`${to}.png`).toString('base64')}">`
    })
    const desk = await browser.newPage({ viewport: { width: 1400, height: 1000 } })
    await desk.setContent(
        `<body style="margin:0;padding:24px;background:#D8D3C6;display:flex;gap:24px;width:max-content">
        ${sheets.join('')}</body>`,
    )
    await desk.locator('body').screenshot({ path: join(root, 'docs/screenshots/papers.png') })
    await desk.close()
    revtal({ REVTAL_AS: 'sanne' }, 'machine', 'tell', join(root, 'tests/data/captures/vm-before-4g'))
    await shoot(
        'take-in',
        '/take-in',
        1280,
        900,
        'light',
        (p) => p.getByRole('button', { name: /NF14-0417/ }).click(),
        'sanne',
    )
    await shoot('guide', '/guides/FJ14', 1280, 1000)
    await shoot('order-holds', '/orders/121', 1280, 900, 'light', undefined, 'ines')
    await terminal(
        'terminal-plan',
        ['plan', 'options', '107', '--target', '128GB'],
        ['plan', 'layout', '107', 'part:OS4U-16G', 'part:OS4U-16G'],
    )
    await terminal('terminal-run', ['run', 'show', '124'], ['run', 'stuck', '105', 'open.base'])
    await terminal(
        'terminal-order',
        ['order', 'show', '103'],
        ['board', 'show'],
        ['reading', 'decode', 'tests/data/captures/vm-after-20g'],
    )
    await bench()
} finally {
    await browser.close()
    await service.end()
}
