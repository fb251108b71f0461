// How soon a load of an hour is drawn, once its code is there: from the press that opens it to its last line.
import { bearer, launch, signIn, startDemo } from './demo.mjs'

const service = await startDemo()
const browser = await launch()
const rounds = 30
const warm = 3

// A sample every five seconds, with work that comes and goes.
const samples = Array.from({ length: 721 }, (_, i) => {
    const work = (1 + Math.sin(i / 9) * Math.sin(i / 70)) / 2
    const kib = (gigabytes) => Math.round(gigabytes * 2 ** 20)
    return [
        i * 5,
        kib(2 + 5 * work),
        kib(work / 4),
        Math.round(90 * work),
        Math.round(60000 * work),
        Math.round(900 * work),
    ]
})
const text = ['revtal-load/1', ...samples.map((s) => s.join(' '))].join('\n')

const post = async (path, body) => {
    const answer = await fetch(`${service.url}/api/v1/${path}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', ...(await bearer(service.url, 'mara')) },
        body: JSON.stringify(body),
    })
    if (!answer.ok) throw new Error(await answer.text())
    return answer.json()
}

try {
    const { order } = await post('orders', { model: 'FJ14', customer: 'Bench', complaint: 'slow' })
    await post(`orders/${order}/readings`, {
        phase: 'before',
        capture: {
            format: 'revtal-capture/1',
            files: [{ name: 'load.txt', content: Buffer.from(text).toString('base64') }],
        },
    })
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    await signIn(context, service.url, 'mara')
    const page = await context.newPage()
    await page.goto(`${service.url}/orders/${order}#scores`)
    await page.locator('.load-plot').waitFor()
    const drawn = []
    for (let i = 0; i < rounds; i++) {
        drawn.push(
            await page.evaluate(
                () =>
                    new Promise((done) => {
                        const heading = document.querySelector('#scores summary')
                        const lines = () =>
                            document.querySelectorAll('.load-plot path.recharts-line-curve').length
                        heading.click()
                        const gone = () => {
                            if (lines() > 0) return requestAnimationFrame(gone)
                            const start = performance.now()
                            heading.click()
                            const look = () =>
                                lines() >= 5 ? done(performance.now() - start) : requestAnimationFrame(look)
                            look()
                        }
                        gone()
                    }),
            ),
        )
    }
    if (process.env.VERBOSE) console.error(drawn.map(Math.round).join(' '))
    const told = drawn.slice(warm).sort((a, b) => a - b)
    console.log(`median ${told[Math.floor(told.length / 2)]}`)
    console.log(`drawn95 ${told[Math.floor(told.length * 0.95)]}`)
} finally {
    await browser.close()
    await service.end()
}
