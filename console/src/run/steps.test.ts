import { expect, test } from 'vitest'
import sheet from '../../../tests/data/shared/run-order.json'
import type { RunStep, StepView } from '../api/client'
import { nextStep, waits } from './steps'

const steps = sheet.steps.map((step) => ({ step: step as unknown as RunStep, settled: false }) as StepView)

// The same walk as the service's own sheet is held to.
test.each(sheet.walk)('after $settled comes $next', ({ settled, next }) =>
  expect(nextStep(steps, (id) => settled.includes(id))?.step.id ?? null).toBe(next),
)

test.each(sheet.waits)('$step waits for $waits after $settled', ({ step, settled, waits: named }) => {
  const view = steps.find((s) => s.step.id === step)!
  expect(waits(steps, view.step, (id) => settled.includes(id)).map((s) => s.step.id)).toEqual(named)
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
