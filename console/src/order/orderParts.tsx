// The parts of an order's page, in the order of the job: what each says folded, and what it holds.
import { Link } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import type { OrderView } from '../api/client'
import { counted, money, size, spoken } from '../words'
import { Expected } from '../plan/Expected'
import { IntakeFacts } from './IntakeFacts'
import { CustomerWords } from './CustomerWords'
import { HandBackForm, ReadyForm } from './DecisionForms'
import { Findings, Totals } from './CheckParts'
import { Copies } from './Copies'
import { LaterVisit } from './LaterVisit'
import { JournalSection } from './Journal'
import { Mend } from './Mend'
import { Doubts } from './Doubts'
import { OldParts } from './OldParts'
import { InvoicePart } from '../invoice/InvoicePart'
import { ReportPart } from '../report/ReportPart'
import { QuotePart } from './QuotePart'
import { ActionButton } from './ActionButton'
import { may } from './acts'
import { DriveRows } from './Drives'
import { ReadingFacts, ReadingForm, ReadingList } from './Reading'
import { RunSummary } from './RunSummary'
import { Scores } from './Scores'
import { BeginSwapTest, SwapTest } from './SwapTest'
import { Watching } from './Watching'
/** Offered is what may be done by now and is not what comes next: it folds, and is not marked as done. */
type State = 'done' | 'now' | 'open' | 'offered' | 'later'
export type Part = {
  id: string
  title: string
  state: State
  line: string | null
  body: ReactNode
  /** It asks the service for more, and only when it is opened. */
  fetches?: boolean
}

/** As each part tells it; the page sees which of them is next. */
type Told = Omit<Part, 'line'> & { line?: string | null }
type Tell = (order: OrderView, now: boolean) => Told

const nextOf: Record<OrderView['next']['kind'], Tell | null> = {
  'take-before': before,
  plan,
  agree: customer,
  run,
  'take-after': after,
  reseat: check,
  'swap-test': check,
  'mend-plan': plan,
  watch,
  'end-hold': check,
  'mark-ready': check,
  'hand-back': handBack,
  resume: journal,
  none: null,
}

export const partsOf = (order: OrderView): Part[] =>
  [
    takenIn,
    before,
    plan,
    customer,
    run,
    after,
    check,
    scores,
    watch,
    nextVisit,
    handBack,
    invoice,
    report,
    journal,
  ].map((tell) => {
    const now = nextOf[order.next.kind] === tell
    const told = tell(order, now)
    return { ...told, line: told.line ?? null, state: now && told.state !== 'open' ? 'now' : told.state }
  })

function takenIn(order: OrderView): Told {
  return {
    id: 'taken-in',
    title: 'Taken in',
    state: 'done',
    line: order.intake.complaint,
    body: (
      <>
        <IntakeFacts order={order} />
        <CustomerWords order={order} />
      </>
    ),
  }
}

function before(order: OrderView, now: boolean): Told {
  const memory = order.before?.reading.memory
  return {
    id: 'before',
    title: 'Before',
    state: memory ? 'done' : 'later',
    line: memory && installed(memory),
    body: (
      <>
        <Doubts order={order} />
        {order.before && <ReadingFacts reading={order.before} />}
        <ReadingList order={order} phase="before" />
        {may(order, 'read-before') && <ReadingForm order={order} phase="before" now={now} />}
      </>
    ),
  }
}

function plan(order: OrderView, now: boolean): Told {
  return {
    id: 'plan',
    title: 'Plan',
    state: order.plan ? 'done' : 'later',
    line: order.plan && `${size(order.plan.expectation.installed)} expected`,
    body: (
      <>
        {order.plan && <Expected plan={order.plan} />}
        {may(order, 'set-plan') && (
          <div>
            <Link
              to="/orders/$number/plan"
              params={{ number: String(order.number) }}
              className={now ? 'button now' : 'button'}
            >
              {order.plan ? 'Change the plan' : 'Plan it'}
            </Link>
          </div>
        )}
        <Mend order={order} now={now && order.next.kind === 'mend-plan'} />
        <Copies order={order} />
      </>
    ),
  }
}

function customer(order: OrderView, now: boolean): Told {
  const total = order.agreed && money(order.agreed.total, order.agreed.currency)
  return {
    id: 'customer',
    title: 'Customer’s word',
    // Who declined may change their mind.
    state: order.agreedBy ? 'done' : may(order, 'agree') ? 'offered' : 'later',
    line: order.agreedBy && [order.agreedBy, total].filter(Boolean).join(', '),
    body: <QuotePart order={order} now={now} />,
  }
}

function run(order: OrderView, now: boolean): Told {
  const steps = order.run?.steps ?? []
  const done = steps.filter((s) => s.done).length
  return {
    id: 'run',
    title: 'Run',
    state: order.agreedBy ? 'done' : 'later',
    line: order.run && `run ${order.run.number}: ${done} of ${steps.length} steps`,
    body: (
      <>
        <RunSummary order={order} now={now} />
        <ReadingList order={order} phase="during" />
        {may(order, 'read-open') && <ReadingForm order={order} phase="during" now={false} />}
      </>
    ),
  }
}

function after(order: OrderView, now: boolean): Told {
  const memory = order.after?.reading.memory
  return {
    id: 'after',
    title: 'After',
    state: memory ? 'done' : 'later',
    line: memory && installed(memory),
    body: (
      <>
        {order.after && <ReadingFacts reading={order.after} />}
        <ReadingList order={order} phase="after" />
        {now && may(order, 'read-after') && <ReadingForm order={order} phase="after" now />}
      </>
    ),
  }
}

function check(order: OrderView): Told {
  return {
    id: 'check',
    title: 'Check',
    state: order.check ? 'done' : 'later',
    line: order.check?.sentence,
    body: order.check && <CheckBody order={order} check={order.check} />,
  }
}

function CheckBody({ order, check }: { order: OrderView; check: NonNullable<OrderView['check']> }) {
  const searches =
    may(order, 'begin-swap-test') && order.next.kind !== 'swap-test' && check.verdict !== 'as-planned'
  return (
    <>
      <SwapTest order={order} />
      <Findings check={check} act={(f) => <ActionButton order={order} finding={f} />} />
      <Totals check={check} />
      <DriveRows check={check} />
      <Link to="/orders/$number/check" params={{ number: String(order.number) }}>
        Before, planned and after, slot by slot
      </Link>
      {may(order, 'mark-ready') && <ReadyForm order={order} />}
      {order.next.kind !== 'take-after' && may(order, 'read-after') && (
        <div id="again">
          <ReadingForm order={order} phase="after" now={false} />
        </div>
      )}
      {searches && (
        <details>
          <summary className="muted">Search for what is at fault</summary>
          <BeginSwapTest order={order} now={false} />
        </details>
      )}
    </>
  )
}

function scores(order: OrderView): Told {
  return {
    id: 'scores',
    title: 'Benchmarks and load',
    state: order.before || may(order, 'take-scores') ? 'offered' : 'later',
    body: <Scores order={order} />,
    fetches: true,
  }
}

function watch(order: OrderView): Told {
  const { watch } = order
  return {
    id: 'watch',
    title: 'Watch',
    state: watch ? 'done' : may(order, 'begin-watch') ? 'offered' : 'later',
    line: watch && (watch.outcome ? spoken(watch.outcome) : `ask on ${watch.dueOn}`),
    body: <Watching order={order} />,
  }
}

function nextVisit(order: OrderView): Told {
  return {
    id: 'next-visit',
    title: 'Next visit',
    state: order.later ? 'done' : may(order, 'note-later') ? 'offered' : 'later',
    line: order.later?.words,
    body: <LaterVisit order={order} />,
    fetches: true,
  }
}

function handBack(order: OrderView): Told {
  return {
    id: 'hand-back',
    title: 'Hand back',
    state: handBackState(order),
    line: oldPartsLine(order),
    body: (
      <>
        <OldParts order={order} />
        <HandBackForm order={order} />
      </>
    ),
  }
}

function invoice(order: OrderView): Told {
  return {
    id: 'invoice',
    title: 'Invoice',
    state:
      may(order, 'make-invoice') || may(order, 'take-payment') || may(order, 'agree-extra')
        ? 'offered'
        : 'later',
    body: <InvoicePart order={order} />,
    fetches: true,
  }
}

function report(order: OrderView): Told {
  return {
    id: 'report',
    title: 'Report',
    state: may(order, 'make-report') ? 'offered' : 'later',
    body: <ReportPart number={order.number} />,
    fetches: true,
  }
}

function journal(order: OrderView): Told {
  return {
    id: 'journal',
    title: 'Journal',
    state: 'open',
    line: counted(order.journal.length, 'entry', 'entries'),
    body: <JournalSection order={order} />,
  }
}

const installed = (memory: { installedBytes: number | null; usableBytes: number | null }) =>
  `${size(memory.installedBytes)} installed, ${size(memory.usableBytes)} usable`

const handBackState = (order: OrderView): State =>
  order.stage === 'handed-back'
    ? 'done'
    : order.comesOut.length > 0 && may(order, 'settle-old-part')
      ? 'offered'
      : 'later'

// Old parts may be settled from the customer's word on; the line says what is still open.
function oldPartsLine({ comesOut }: OrderView): string | null {
  if (comesOut.length === 0) return null
  const settled = comesOut.filter((p) => p.settled).length
  return `${settled} of ${counted(comesOut.length, 'old part', 'old parts')} settled`
}
