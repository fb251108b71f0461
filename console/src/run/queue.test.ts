import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { load, SaidQueue } from './queue'
import { nextStep } from './steps'
import { placed } from './bays'

const answers: (() => Promise<Response>)[] = []
const sent: { path: string; key: string }[] = []

beforeEach(() => {
  localStorage.clear()
  answers.length = sent.length = 0
  vi.stubGlobal('fetch', (path: string, init: RequestInit) => {
    sent.push({ path, key: (init.headers as Record<string, string>)['Idempotency-Key']! })
    return (answers.shift() ?? (() => Promise.resolve(new Response('{}'))))()
  })
})
afterEach(() => vi.unstubAllGlobals())

const lost = () => Promise.reject(new TypeError('network'))
const refused = () =>
  Promise.resolve(new Response(JSON.stringify({ code: 'step-waits', detail: 'It waits.' }), { status: 409 }))
const nothing = {
  holes: null,
  occupants: null,
  seen: null,
  explanation: null,
  deviation: null,
}
const said = (step: string) => ({
  path: `steps/${step}` as const,
  body: nothing,
  step,
  title: step,
  confirms: true,
})
const settle = () => new Promise((done) => setTimeout(done, 5))

test('what finds no service is kept over a reload and sent with the same key', async () => {
  answers.push(lost)
  new SaidQueue(1, () => Promise.resolve()).say(said('a'))
  await settle()
  expect(load(1).map((s) => s.step)).toEqual(['a'])
  const after = new SaidQueue(1, () => Promise.resolve())
  await after.flush()
  expect(after.snapshot()).toEqual([])
  expect(new Set(sent.map((s) => s.key)).size).toBe(1)
  expect(localStorage.length).toBe(0)
})

test('what is refused keeps its reason, and the rest goes on in order', async () => {
  answers.push(refused)
  const queue = new SaidQueue(1, () => Promise.resolve())
  queue.say(said('a'))
  queue.say(said('b'))
  await settle()
  expect(queue.snapshot().map((s) => [s.step, s.refused?.detail])).toEqual([['a', 'It waits.']])
  expect(sent.map((s) => s.path)).toEqual(['/api/v1/orders/1/steps/a', '/api/v1/orders/1/steps/b'])
  queue.say(said('a'))
  await settle()
  expect(queue.snapshot()).toEqual([])
})

test('what was tapped at a step is forgotten once it is taken, and at no other', async () => {
  const kept = (step: string) => `revtal.step.1.1.${step}`
  for (const step of ['fit.S1', 'fit.S10', 'close.S1']) localStorage.setItem(kept(step), '[]')
  new SaidQueue(1, () => Promise.resolve()).say({ ...said('fit.S1'), keeps: [kept('fit.S1')] })
  await settle()
  expect(Object.keys(localStorage).sort()).toEqual([kept('close.S1'), kept('fit.S10')])
})

test('the next step waits for earlier parts and for what it names', () => {
  const step = (id: string, part: string, waitsFor: string[] = []) =>
    ({ step: { id, part, waitsFor }, settled: false }) as unknown as Parameters<typeof nextStep>[0][number]
  const steps = [step('p', 'prepare'), step('i', 'isolate'), step('o2', 'open', ['o1']), step('o1', 'open')]
  const next = (...done: string[]) => nextStep(steps, (id) => done.includes(id))?.step.id
  expect([next(), next('p'), next('p', 'i'), next('p', 'i', 'o1'), next('p', 'i', 'o1', 'o2')]).toEqual([
    'p',
    'i',
    'o1',
    'o2',
    undefined,
  ])
})

test('a scanned drive goes to its own bay, or to the first that is free', () => {
  expect(placed('x2', ['B1', 'B2'], {}, { B1: 'X1', B2: 'X2' })).toEqual({ B2: 'x2' })
  expect(placed('n', ['B1', 'B2'], { B1: 'X1' }, {})).toEqual({ B1: 'X1', B2: 'n' })
  expect(placed('n', ['B1'], { B1: 'X1' }, {})).toEqual({ B1: 'X1' })
})
