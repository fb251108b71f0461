// What stops a step, as far as a screen without a network can know: never less than the service would, so that nothing
// is done that it would have stopped. One file of cases holds both to the same answers.
import type { ConfirmRequest, RefusalAnswer, RunStep, StepClosed, StepView } from '../api/client'
import { isOwn } from './bays'

/** What was confirmed of a step, here or as the service has it. */
export type Told = ConfirmRequest & {
  step: string
  /** Milliseconds since 1970 by the service's clock. */
  at: number
  /** Whether the service does not know it yet. */
  here?: boolean
}

/** What else was said in this run. */
export type Words = {
  /** Kinds of finds with the step that they belong to. */
  finds: { kind: string; step: string | null }[]
  /** Gates that a lead let be, and answers of the customer: by the refusal's code. */
  answered: { code: string; step: string | null }[]
}

/**
 * Why the step cannot be confirmed so.
 * @param told What was confirmed in this run.
 * @param wish What is to be said now.
 */
export function closedHere(view: StepView, told: Told[], words: Words, wish: Told): StepClosed | null {
  const { step } = view
  const answered = (code: string) =>
    words.answered.some((a) => a.code === code && (a.step === null || a.step === step.id))
  if (words.finds.some((f) => f.kind === 'swollen-battery') && !answered('run-stopped'))
    return close(
      'run-stopped',
      'A swollen battery was found. Stop: do not press it, do not charge it, do not close the case on it. A lead ' +
        'decides how to go on.',
      'waiver',
    )
  if (view.closed && !answered(view.closed.code)) return view.closed
  const closed = cooling(step, told, wish.at) ?? metal(step, told, words)
  if (closed && !answered(closed.code)) return closed
  if (wish.deviation === 'skipped') return null
  const counted = step.part === 'open' ? outCount(step, wish) : backCount(step, told, words, wish)
  return (
    (wish.explanation || (counted && answered(counted.code)) ? null : counted) ??
    (answered('wrong-bay') ? null : drives(step, told, wish))
  )
}

const close = (code: string, detail: string, ...answers: RefusalAnswer[]): StepClosed => ({
  code,
  detail,
  answers,
})

function cooling(step: RunStep, told: Told[], now: number): StepClosed | null {
  const from = told.find((t) => t.step === step.timedFrom)
  if (step.seconds === null || !from) return null
  const left = Math.ceil((from.at + step.seconds * 1000 - now) / 1000)
  return left > 0
    ? close(
        'still-cooling',
        `Still cooling: ${Math.floor(left / 60)} min ${left % 60} s left. If it came in cold, a lead can waive ` +
          'the wait.',
        'waiver',
      )
    : null
}

/** How many of each group; undefined where nobody counted. */
function byGroup(told: Told | undefined): Record<string, number> | undefined {
  if (told?.groups) return told.groups
  if (!told?.holes) return undefined
  const counts: Record<string, number> = {}
  for (const hole of told.holes) {
    const group = hole.slice(0, hole.lastIndexOf('/'))
    counts[group] = (counts[group] ?? 0) + 1
  }
  return counts
}

const sum = (counts: Record<string, number> | undefined) =>
  Object.values(counts ?? {}).reduce((a, b) => a + b, 0)

const differs = (a: Record<string, number>, b: Record<string, number>) =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].some((group) => (a[group] ?? 0) !== (b[group] ?? 0))

const loose = (step: RunStep) => step.fasteners.filter((g) => g.holes.length > 0 && !g.captive)

function outCount(step: RunStep, wish: Told): StepClosed | null {
  if (step.isRecord || step.looseFasteners === 0) return null
  const guide = Object.fromEntries(loose(step).map((g) => [g.group, g.holes.length]))
  const out = byGroup(wish) ?? {}
  return differs(guide, out)
    ? close(
        'count-differs',
        `The guide has ${step.looseFasteners} fasteners, ${sum(out)} came out. Say why: missing on arrival, or ` +
          'hidden ones found.',
        'explanation',
      )
    : null
}

function backCount(step: RunStep, told: Told[], words: Words, wish: Told): StepClosed | null {
  if (step.part !== 'close') return null
  const open = told.find((t) => t.step === `open.${step.removal}`)
  const out = byGroup(open)
  const back = byGroup(wish)
  const outSum = out ? sum(out) : (open?.fasteners ?? 0)
  const missing = missingOnArrival(open, words)
  if (missing > 0 && outSum - sum(back) === missing) return null
  if (!(out ? differs(out, back ?? {}) : outSum !== sum(back))) return null
  return close(
    'tally-open',
    `${outSum} fasteners came out of the ${step.removalTitle} and ${sum(back)} went back. Find them, or explain the ` +
      'difference.',
    'explanation',
    'waiver',
  )
}

// A count that was explained at opening knows of it already.
const missingOnArrival = (open: Told | undefined, words: Words) =>
  open && !open.explanation
    ? words.finds.filter(
        (f) => f.kind === 'missing-fastener' && f.step && subject(f.step) === subject(open.step),
      ).length
    : 0

const subject = (step: string) => step.slice(step.indexOf('.') + 1)

// A screw on a board that is powered is a short circuit. Of what the service knows it tells by itself.
function metal(step: RunStep, told: Told[], words: Words): StepClosed | null {
  if (step.part !== 'measure' && step.part !== 'start') return null
  const lost = told
    .filter((t) => t.here && t.step.startsWith('close.') && t.deviation !== 'skipped')
    .map((back) => {
      const open = told.find((t) => t.step === `open.${subject(back.step)}`)
      const found = words.finds.filter((f) => f.kind === 'lost-fastener' && f.step === back.step).length
      return count(open) - count(back) - found - missingOnArrival(open, words)
    })
    .reduce((all, gone) => all + Math.max(0, gone), 0)
  return lost > 0
    ? close(
        'loose-metal',
        `${lost} ${lost === 1 ? 'fastener' : 'fasteners'} did not go back, and may lie on the board: no power before ` +
          'that. Record it as found (the lost fastener), or a lead says that it is out of the machine.',
        'waiver',
      )
    : null
}

const count = (told: Told | undefined) => told?.fasteners ?? sum(byGroup(told))

function drives(step: RunStep, told: Told[], wish: Told): StepClosed | null {
  if (step.records.length === 0 || step.id === 'record.modules') return null
  const says = (bay: string) => wish.occupants?.[bay]?.trim() ?? ''
  if (step.isRecord) {
    const missing = step.records.filter((bay) => !says(bay))
    return missing.length > 0
      ? close(
          'occupant-missing',
          `Write down what sits in ${missing.join(', ')}: the drive’s serial, or “empty”.`,
        )
      : null
  }
  const was = Object.assign({}, ...told.map((t) => t.occupants ?? {})) as Record<string, string>
  const wrong = step.records.find(
    (bay) =>
      was[bay] !== undefined &&
      (says(bay) !== '' || !isOwn(was, bay, 'empty')) &&
      !isOwn(was, bay, says(bay)),
  )
  return wrong
    ? close('wrong-bay', `${wrong} held ${was[wrong]}: say which drive went back into it.`, 'waiver')
    : null
}
