import type { RunStep, StepView } from '../api/client'

/** The parts of a run, in order. */
export const parts = [
  'prepare',
  'isolate',
  'open',
  'record',
  'pull',
  'fit',
  'measure',
  'close',
  'start',
  'set-up',
] as const

const rank = (step: RunStep) => parts.indexOf(step.part)

/**
 * What a step waits for: all steps of earlier parts, and those that it names.
 * The service's gates have the last word.
 */
export const waits = (steps: StepView[], step: RunStep, settled: (id: string) => boolean) =>
  steps.filter((s) => !settled(s.step.id) && (rank(s.step) < rank(step) || step.waitsFor.includes(s.step.id)))

/** The first step that is not settled and waits for nothing. */
export const nextStep = (steps: StepView[], settled: (id: string) => boolean) =>
  steps.find((s) => !settled(s.step.id) && waits(steps, s.step, settled).length === 0)

const mostAhead = 3

/** What comes once this one is done, a few in order. */
export function stepsAfter(steps: StepView[], step: string, settled: (id: string) => boolean): StepView[] {
  const done = new Set([step])
  const after: StepView[] = []
  while (after.length < mostAhead) {
    const next = nextStep(steps, (id) => done.has(id) || settled(id))
    if (!next) break
    done.add(next.step.id)
    after.push(next)
  }
  return after
}

/** Steps one after another of one part, for the strip. */
export function byPart(steps: StepView[]): { part: string; steps: StepView[] }[] {
  const groups: { part: string; steps: StepView[] }[] = []
  for (const step of steps) {
    const last = groups[groups.length - 1]
    if (last?.part === step.step.part) last.steps.push(step)
    else groups.push({ part: step.step.part, steps: [step] })
  }
  return groups
}

/** What was written down of each bay in this run. */
export const occupants = (steps: StepView[]): Record<string, string> =>
  Object.assign({}, ...steps.map((s) => s.done?.occupants ?? {})) as Record<string, string>
