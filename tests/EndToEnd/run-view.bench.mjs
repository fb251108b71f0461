// Figures of the run view: how soon a confirmed step is seen on another open console, and how soon a tap is answered.
import { bearer, launch, signIn, startDemo } from './demo.mjs'

const service = await startDemo()
const { url } = service
const browser = await launch()
const rounds = 80
// What is loaded and compiled for the first time is not counted.
const warm = 8
const p95 = (all) => all.slice(warm).sort((a, b) => a - b)[Math.floor((all.length - warm) * 0.95)]
const post = async (path, body, person = 'mara') =>
    fetch(`${url}/api/v1/${path}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...(await bearer(url, person)) },
        body: JSON.stringify(body),
    }).then((r) => (r.ok ? r.json() : r.text().then((t) => Promise.reject(new Error(t)))))

try {
    const open = async () => {
        const context = await browser.newContext({
            viewport: { width: 1024, height: 768 },
            baseURL: url,
        })
        await signIn(context, url, 'mara')
        return context.newPage()
    }

    // Orders of one model, each with its first steps still to confirm.
    const orders = []
    for (let i = 0; i < rounds / 4; i++) {
        const { order } = await post('orders', {
            model: 'FJ14',
            customer: 'Bench',
            complaint: 'slow',
        })
        await post(`orders/${order}/readings`, {
            phase: 'before',
            seen: {
                firmwareShows: '8 GB',
                slots: [{ slot: 'S2', module: { size: '8 GB' } }],
            },
        })
        await post(`orders/${order}/plan`, {
            changes: [{ slot: 'S1', fit: { size: '8 GB' } }],
        })
        await post(`orders/${order}/agreement`, { customer: 'Bench' })
        orders.push(order)
    }
    const steps = [
        'prepare.bench',
        'isolate.shut-down-not-sleep',
        'isolate.unplug',
        'isolate.remove-battery-pack',
    ]

    const seen = []
    const bare = []
    const page = await open()
    for (const order of orders) {
        await page.goto(`/orders/${order}/run`)
        await page.locator('.step h1').waitFor()
        await page.waitForTimeout(800)
        for (const step of steps) {
            // The page notes by itself when its step changes; a bare listener notes when the event comes.
            const change = page.evaluate(
                () =>
                    new Promise((done) => {
                        const title = () => document.querySelector('.step h1')?.textContent
                        const was = title()
                        const source = new EventSource('/api/v1/changes')
                        let event = 0
                        source.onmessage = () => (event ||= Date.now())
                        source.onopen = () => (window.ready = true)
                        const look = () => {
                            if (title() !== was && event) {
                                source.close()
                                done({ sight: Date.now(), event })
                            } else requestAnimationFrame(look)
                        }
                        look()
                    }),
            )
            await page.waitForFunction(() => window.ready)
            await page.evaluate(() => (window.ready = false))
            const start = Date.now()
            await post(`orders/${order}/steps/${step}`, {})
            const { sight, event } = await change
            seen.push(sight - start)
            bare.push(Math.max(1, event - start))
        }
    }

    // Counting screws, with the processor slowed.
    const order = orders[0]
    for (const step of ['hold-power', 'lay-face-down', 'ground-yourself'])
        await post(`orders/${order}/steps/isolate.${step}`, {})
    await post(`orders/${order}/steps/open.hatch`, {})
    await page.goto(`/orders/${order}/run`)
    await page.locator('.peg').first().waitFor()
    const session = await page.context().newCDPSession(page)
    await page.waitForTimeout(800)
    await session.send('Emulation.setCPUThrottlingRate', { rate: 4 })
    const taps = []
    for (let i = 0; i < rounds; i++) {
        taps.push(
            await page.evaluate(
                (i) =>
                    new Promise((done) => {
                        const peg = document.querySelectorAll('.peg')[i % 2]
                        const was = peg.getAttribute('aria-pressed')
                        const start = performance.now()
                        peg.click()
                        const look = () =>
                            peg.getAttribute('aria-pressed') !== was
                                ? done(performance.now() - start)
                                : requestAnimationFrame(look)
                        requestAnimationFrame(look)
                    }),
                i,
            ),
        )
    }

    // Opened without a network, the processor still slowed: what the page shows of its step, beside an empty page that
    // comes from the same place.
    await post(`orders/${order}/owner`, { owner: 'mara' })
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined))
    await page.goto(`/orders/${order}/run`)
    await page.locator('.step h1').waitFor()
    await page.waitForTimeout(3_000)
    await page.context().setOffline(true)
    await page.addInitScript(() => {
        const look = () => {
            if (document.querySelector('.step h1')) window.shownAt = performance.now()
            else requestAnimationFrame(look)
        }
        look()
    })
    const [shown, empty] = [[], []]
    for (let i = 0; i < 12; i++) {
        await page.goto(`/orders/${order}/run`)
        await page.waitForFunction(() => window.shownAt)
        shown.push(await page.evaluate(() => window.shownAt))
        empty.push(await page.evaluate(() => performance.getEntriesByType('navigation')[0].responseEnd))
    }
    const median = (all) => all.slice(2).sort((a, b) => a - b)[5]
    if (process.env.VERBOSE) console.error(seen.join(' '), '|', bare.join(' '))
    console.log(`seen95 ${p95(seen)}`)
    console.log(`bare95 ${p95(bare)}`)
    console.log(`tap95 ${p95(taps)}`)
    console.log(`offline ${median(shown)}`)
    console.log(`page ${median(empty)}`)
} finally {
    await browser.close()
    await service.end()
}
