import { expect, test } from 'vitest'
import file from '../../../tests/data/shared/gates.json'
import type { OrderView, StepView } from '../api/client'
import type { Said } from '../away/store'
import { closedHere, type Told } from './gates'
import { heldHere, stopsHere } from './pending'

type Step = (typeof file.sheets.NS13)[number]

const now = Date.parse('2026-03-02T12:00:00Z')
const minute = 60_000

const loose = (step: Step) => step.fasteners.filter((g) => !g.captive).flatMap((g) => g.holes)

const view = (step: Step) =>
  ({
    closed: null,
    step: {
      ...step,
      fasteners: step.fasteners.map((g) => ({ ...g, group: g.name })),
      looseFasteners: loose(step).length,
      waitsFor: [],
    },
  }) as unknown as StepView

// What nobody tells was done as the sheet says, long ago.
const whole = (step: Step): Told => ({
  step: step.id,
  at: now - 60 * minute,
  holes: ['open', 'close'].includes(step.part) && !step.isRecord ? loose(step) : null,
})

// The same cases as the service's own gates answer.
test.each(file.cases)('$name', (it) => {
  const sheet = file.sheets[it.guide as keyof typeof file.sheets] as Step[]
  const said = (s: { step: string; minutesAgo?: number }) =>
    ({ at: now - (s.minutesAgo ?? 60) * minute, here: true, ...s }) as unknown as Told
  const tried = sheet.findIndex((s) => s.id === it.try.step)
  const told = sheet.slice(0, tried).map((s) => it.told.map(said).find((t) => t.step === s.id) ?? whole(s))
  const words = { finds: it.finds, answered: [] }
  const closed = closedHere(view(sheet[tried]!), told, words, { ...said(it.try), at: now })
  expect(closed?.code ?? null).toBe(it.code)
})

test('what the service closed stays closed until it is answered here', () => {
  const step = view(file.sheets.NS13[0] as Step)
  const closed = { code: 'seal-consent-missing', detail: 'Ask.', answers: [] }
  const shut = { ...step, closed }
  const wish = { step: step.step.id, at: now }
  expect(closedHere(shut, [], { finds: [], answered: [] }, wish)).toBe(closed)
  const answered = [{ code: closed.code, step: step.step.id }]
  expect(closedHere(shut, [], { finds: [], answered }, wish)).toBeNull()
})

test('what was said before the network was known to be gone comes back where the tablet would have stopped it', () => {
  const first = ['prepare.bench', 'isolate.unplug', 'isolate.clear-mat', 'isolate.lay-face-down']
  const steps = (file.sheets.NS13 as Step[]).map((s) => ({ ...view(s), settled: first.includes(s.id) }))
  const order = { run: { found: [], waivers: [], steps } } as unknown as OrderView
  const said = (step: string, minutesAgo: number): Said => ({
    key: step,
    place: -minutesAgo,
    order: 1,
    path: `orders/1/steps/${step}`,
    body: {},
    step,
    title: step,
    confirms: true,
    by: 'mara',
    at: now - minutesAgo * minute,
    ahead: 0,
  })
  const shut = said('isolate.shut-down-not-sleep', 9)
  expect(heldHere(order, [shut])).toBeUndefined()
  const early = heldHere(order, [shut, said('isolate.cool-down', 1)])
  expect([early?.step, early?.refused?.code]).toEqual(['isolate.cool-down', 'still-cooling'])
  const late = [said('isolate.shut-down-not-sleep', 12), said('isolate.cool-down', 1)]
  expect(heldHere(order, late)).toBeUndefined()

  // Nothing is opened out of turn, whatever was picked from the list.
  const open = stopsHere(
    order,
    steps.find((s) => s.step.id === 'open.base')!,
    late,
    {},
    now,
  )
  expect(open?.code).toBe('step-waits')
})
