import type {
  ConfirmRequest,
  FindRequest,
  OrderView,
  StepClosed,
  StepView,
  WaiveRequest,
} from '../api/client'
import type { Said } from '../away/store'
import { closedHere, type Told, type Words } from './gates'
import { waits } from './steps'

/** What was confirmed in this run: as the service has it, and what waits here. */
export const toldOf = (steps: StepView[], waiting: Said[]): Told[] => [
  ...steps.flatMap((s) => (s.done ? [{ ...s.done, at: Date.parse(s.done.at) }] : [])),
  ...waiting
    .filter((s) => s.confirms)
    .map((s) => ({ ...(s.body as ConfirmRequest), step: s.step, at: s.at + s.ahead, here: true })),
]

// What answers a refusal: a lead's waiver, or the customer's word of what it waits for.
const answers: [RegExp, (said: Said) => string | null][] = [
  [/\/waivers$/, (s) => (s.body as WaiveRequest).gate],
  [/\/seal$/, () => 'seal-consent-missing'],
  [/\/copy$/, () => 'boot-copy-missing'],
]

// Once answered, they are for the whole run.
const whole = ['run-stopped', 'loose-metal']

/** What else was said of this run. */
const wordsOf = (order: OrderView, waiting: Said[]): Words => ({
  finds: [
    ...(order.run?.found ?? []).map(({ kind, step }) => ({ kind, step })),
    ...waiting
      .filter((s) => s.path.endsWith('/finds'))
      .map((s) => ({ kind: (s.body as FindRequest).kind, step: (s.body as FindRequest).step ?? null })),
  ],
  answered: [
    ...(order.run?.waivers ?? []).map((w) => ({ code: w.gate, step: w.step })),
    ...waiting.flatMap((s) => {
      const code = answers.find(([path]) => path.test(s.path))?.[1](s)
      return code ? [{ code, step: s.step }] : []
    }),
  ].map((a) => ({ ...a, step: whole.includes(a.code) ? null : a.step })),
})

/** When the step has cooled, by the service's clock; null where its clock has not begun. */
export function coolsUntil({ step }: StepView, told: Told[]): number | null {
  const from = told.find((t) => t.step === step.timedFrom)
  return from && step.seconds !== null ? from.at + step.seconds * 1000 : null
}

/** A swollen battery that was found here and that the service does not know of yet. */
export const stopHere = (order: OrderView, waiting: Said[]) =>
  order.run?.stop
    ? null
    : waiting.find((s) => s.path.endsWith('/finds') && (s.body as FindRequest).kind === 'swollen-battery')

/**
 * What stops a step on a screen that is alone.
 * @param waiting What was said before it and is not sent yet.
 * @param at Milliseconds since 1970 by the service's clock.
 */
export function stopsHere(
  order: OrderView,
  view: StepView,
  waiting: Said[],
  wish: ConfirmRequest,
  at: number,
): StepClosed | null {
  const steps = order.run?.steps ?? []
  const isDone = (id: string) =>
    steps.some((s) => s.step.id === id && s.settled) || waiting.some((s) => s.confirms && s.step === id)
  const first = waits(steps, view.step, isDone)[0]
  return first
    ? {
        code: 'step-waits',
        detail: `“${view.step.title}” waits: confirm “${first.step.title}” first.`,
        answers: [],
      }
    : closedHere(view, toldOf(steps, waiting), wordsOf(order, waiting), { ...wish, step: view.step.id, at })
}

/**
 * What was confirmed before anybody knew that the network had gone, and that the tablet would have stopped: it comes
 * back with the reason.
 */
export function heldHere(order: OrderView, waiting: Said[]): Said | undefined {
  for (const said of waiting.filter((s) => s.confirms)) {
    const view = order.run?.steps.find((s) => s.step.id === said.step && !s.settled)
    const earlier = waiting.filter((s) => s.place < said.place)
    const refused = view && stopsHere(order, view, earlier, said.body as ConfirmRequest, said.at + said.ahead)
    if (refused) return { ...said, refused }
  }
  return undefined
}
