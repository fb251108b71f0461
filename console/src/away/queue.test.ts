import 'fake-indexeddb/auto'
import { IDBFactory } from 'fake-indexeddb'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { seat } from '../api/client'
import { SaidQueue, type Telling } from './queue'
import { openStore, readSaid, writeSaid, type Said } from './store'

const answers: (() => Promise<Response>)[] = []
const sent: { path: string; key: string; saidAt?: string; sentAt?: string }[] = []

beforeEach(() => {
  indexedDB = new IDBFactory()
  localStorage.clear()
  answers.length = sent.length = 0
  seat('mara')
  vi.stubGlobal('fetch', (path: string, init: RequestInit) => {
    const headers = init.headers as Record<string, string>
    sent.push({
      path: path.replace('/api/v1/', ''),
      key: headers['Idempotency-Key']!,
      saidAt: headers['Said-At'],
      sentAt: headers['Sent-At'],
    })
    return (answers.shift() ?? (() => Promise.resolve(new Response('{}'))))()
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

const lost = () => Promise.reject(new TypeError('network'))
const says = (status: number, code: string) => () =>
  Promise.resolve(new Response(JSON.stringify({ code, detail: 'It waits.' }), { status }))
const rests = (seconds: number) => () =>
  Promise.resolve(
    new Response(JSON.stringify({ code: 'too-many' }), {
      status: 429,
      headers: { 'Retry-After': `${seconds}` },
    }),
  )
const nothing = { holes: null, occupants: null, seen: null, explanation: null, deviation: null }
const step = (id: string): Telling => ({
  path: `steps/${id}` as const,
  body: nothing,
  step: id,
  title: id,
  confirms: true,
})
// Also on a machine that does much else.
const settle = () => new Promise((done) => setTimeout(done, 300))
const open = () => new SaidQueue(openStore())
const kept = async () => readSaid((await openStore()).store!)
const said = (key: string, more: Partial<Said> = {}): Said => ({
  key,
  place: Number(key) || 1,
  order: 1,
  path: `orders/1/steps/${key}`,
  body: null,
  step: key,
  title: key,
  confirms: true,
  by: 'mara',
  at: Date.now(),
  ahead: 0,
  ...more,
})

test('what finds no service is kept over a reload and sent with the same key', async () => {
  answers.push(lost)
  await open().say(1, step('a'))
  await settle()
  expect((await kept()).map((s) => [s.step, s.by])).toEqual([['a', 'mara']])
  const after = open()
  await after.flush()
  expect(after.snapshot()).toMatchObject({ said: [], lost: false })
  expect(new Set(sent.map((s) => s.key)).size).toBe(1)
  expect(await kept()).toEqual([])
})

test('what is refused keeps its reason, and the rest goes on in order', async () => {
  answers.push(says(409, 'step-waits'))
  const queue = open()
  await queue.say(1, step('a'))
  await queue.say(1, step('b'))
  await settle()
  expect(queue.snapshot().said.map((s) => [s.step, s.refused?.detail])).toEqual([['a', 'It waits.']])
  expect(sent.map((s) => s.path)).toEqual(['orders/1/steps/a', 'orders/1/steps/b'])
  await queue.say(1, step('a'))
  await settle()
  expect(queue.snapshot().said).toEqual([])
})

test('a service in trouble is waited for, and what is already so needs no answer', async () => {
  answers.push(says(503, 'full'), says(409, 'already-so'))
  const queue = open()
  await queue.say(1, step('a'))
  await settle()
  expect(queue.snapshot()).toMatchObject({ lost: true, said: [{ step: 'a' }] })
  // It is asked again, but not at once.
  await queue.flush()
  expect(sent).toHaveLength(1)
  vi.setSystemTime(Date.now() + 11_000)
  await queue.flush()
  await settle()
  expect(queue.snapshot()).toMatchObject({ lost: false, said: [] })
})

test('two tabs share one queue and each thing is sent once', async () => {
  answers.push(lost)
  const [one, two] = [open(), open()]
  await one.say(1, step('a'))
  await settle()
  await two.say(1, step('b'))
  await Promise.all([one.flush(), two.flush(), one.flush()])
  await settle()
  await Promise.all([one.flush(), two.flush()])
  const steps = sent.map((s) => s.path.split('/').at(-1))
  expect([...new Set(steps)]).toEqual(['a', 'b'])
  expect(new Set(sent.map((s) => s.key)).size).toBe(2)
  expect([await kept(), one.snapshot().said, two.snapshot().said]).toEqual([[], [], []])
})

test('a service that names a time is not asked before it', async () => {
  answers.push(rests(40))
  const queue = open()
  await queue.say(1, step('a'))
  await settle()
  vi.setSystemTime(Date.now() + 39_000)
  await queue.flush()
  expect(sent).toHaveLength(1)
  vi.setSystemTime(Date.now() + 2_000)
  await queue.flush()
  await settle()
  expect(sent).toHaveLength(2)
  expect(queue.snapshot().said).toEqual([])
})

test('what one person said waits for them, and holds up nothing of another order', async () => {
  const { store } = await openStore()
  await writeSaid(store!, '1', said('1', { by: 'tobi' }))
  await writeSaid(store!, '2', said('2'))
  await writeSaid(store!, '3', said('3', { order: 2, path: 'orders/2/steps/3' }))
  const queue = open()
  await queue.flush()
  expect(sent.map((s) => s.path)).toEqual(['orders/2/steps/3'])
  seat('tobi')
  await queue.flush()
  // What was said after it in other hands goes when those are back.
  expect(sent.map((s) => s.path).slice(1)).toEqual(['orders/1/steps/1'])
  seat('mara')
  await queue.flush()
  expect(sent.map((s) => s.path).slice(2)).toEqual(['orders/1/steps/2'])
})

test('what waited is sent with when it was said and what the clock shows now', async () => {
  const { store } = await openStore()
  const at = Date.now() - 2 * 3_600_000
  await writeSaid(store!, '1', said('1', { at, ahead: 60_000 }))
  await open().flush()
  expect(Date.parse(sent[0]!.saidAt!)).toBe(at + 60_000)
  expect(Math.abs(Date.parse(sent[0]!.sentAt!) - Date.now() - 60_000)).toBeLessThan(1000)
  await open().say(1, step('now'))
  await settle()
  expect(sent[1]).toMatchObject({ saidAt: undefined, sentAt: undefined })
})

test('what cannot be understood is set aside, and the rest is sent', async () => {
  const { store } = await openStore()
  await store!.put('said', { key: 'x', words: 'no order' } as unknown as Said)
  await writeSaid(store!, '2', said('2'))
  const queue = open()
  await queue.flush()
  expect(sent.map((s) => s.path)).toEqual(['orders/1/steps/2'])
  expect(await store!.getAll('aside')).toEqual([{ key: 'x', words: 'no order' }])
})

test('a store that does not open is left alone and another begun', async () => {
  const whole = indexedDB.open.bind(indexedDB)
  vi.spyOn(indexedDB, 'open').mockImplementation((name, version) => {
    if (name === 'revtal') throw new DOMException('broken', 'UnknownError')
    return whole(name, version)
  })
  answers.push(lost)
  const queue = open()
  await queue.say(1, step('a'))
  await settle()
  expect(queue.snapshot()).toMatchObject({ damaged: true, keeps: true, said: [{ step: 'a' }] })
})

test('a browser that keeps nothing says so, and sends all the same', async () => {
  vi.spyOn(indexedDB, 'open').mockImplementation(() => {
    throw new DOMException('denied', 'SecurityError')
  })
  answers.push(lost)
  const queue = open()
  await queue.say(1, step('a'))
  await settle()
  expect(queue.snapshot()).toMatchObject({ keeps: false, said: [{ step: 'a' }] })
  await queue.flush()
  expect(queue.snapshot().said).toEqual([])
})

test('what was tapped at a step is forgotten once it is taken, and at no other', async () => {
  const name = (id: string) => `revtal.step.1.1.${id}`
  for (const id of ['fit.S1', 'fit.S10', 'close.S1']) localStorage.setItem(name(id), '[]')
  await open().say(1, { ...step('fit.S1'), keeps: [name('fit.S1')] })
  await settle()
  expect(Object.keys(localStorage).sort()).toEqual([name('close.S1'), name('fit.S10')])
})
