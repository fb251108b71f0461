import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { useState, type ReactNode } from 'react'
import type { OrderView } from '../api/client'
import { orderQuery } from '../api/queries'
import { Waiting } from '../parts/Trouble'
import { VerdictMark } from '../parts/VerdictMark'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import { PositionDrawing } from '../positions/PositionDrawing'
import { counted, money, size, spoken } from '../words'
import { Countdown } from '../run/Countdown'
import { Expected } from '../plan/Expected'
import { CustomerWords } from './CustomerWords'
import { HandBackForm, ReadyForm } from './DecisionForms'
import { Findings, Totals } from './CheckParts'
import { Copies } from './Copies'
import { JournalSection } from './Journal'
import { OldParts } from './OldParts'
import { QuotePart } from './QuotePart'
import { ActionButton } from './ActionButton'
import { may } from './acts'
import { DriveRows } from './Drives'
import { ReadingFacts, ReadingForm, ReadingList } from './Reading'
import { RunSummary } from './RunSummary'
import { Scores } from './Scores'
import { BeginSwapTest, SwapTest } from './SwapTest'
import { Watching } from './Watching'
import './order.css'

/** Offered is what may be done by now and is not what comes next: it folds, and is not marked as done. */
type State = 'done' | 'now' | 'open' | 'offered' | 'later'
type Part = {
  id: string
  title: string
  state: State
  line: string | null
  body: ReactNode
  /** It asks the service for more, and only when it is opened. */
  fetches?: boolean
}

/** One page read downwards as the job happens: what is done folds to a line, what is next is open. */
export function OrderPage() {
  const { number } = useParams({ from: '/shell/orders/$number' })
  const order = useQuery(orderQuery(Number(number)))
  useTitle(order.data && `${order.data.number} ${order.data.model.name}`)
  if (!order.data) return <Waiting error={order.error} />
  const parts = partsOf(order.data)
  return (
    <div className="page order-page">
      <nav className="rail" aria-label="The job">
        <ol>
          {parts.map((p) => (
            <li key={p.id} className={p.state}>
              <a href={`#${p.id}`} aria-current={p.state === 'now' ? 'step' : undefined}>
                {p.title}
              </a>
            </li>
          ))}
        </ol>
      </nav>
      <div className="stack order-main">
        <Head order={order.data} />
        {parts.map((p) => (
          <PartSheet key={`${p.id}-${p.state}`} part={p} />
        ))}
      </div>
      <aside className="order-aside" aria-label="Positions">
        <PositionDrawing positions={order.data.positions} compact />
        {order.data.plan && <Expected plan={order.data.plan} />}
      </aside>
    </div>
  )
}

function Head({ order }: { order: OrderView }) {
  return (
    <div className="stack order-head">
      <h1>
        <span className="mono">{order.number}</span> {order.model.maker} {order.model.name}
      </h1>
      <p className="row">
        <b>{order.intake.customer}</b>
        <span>{spoken(order.stage)}</span>
        {order.check && <VerdictMark verdict={order.check.verdict} />}
        <span className="muted small">
          changed <When at={order.changedAt} />
        </span>
      </p>
      {order.reason && <p className="trouble">{order.reason}</p>}
      {order.run?.timers.map((t) => (
        <Countdown key={t.step} until={t.until} label="cooling" />
      ))}
      {order.newerRevision && (
        <p className="small">
          <span className="verdict remark">!</span> The guide has a newer revision than the one this order
          keeps:{' '}
          <Link
            to="/guides/$code/compare"
            params={{ code: order.model.code }}
            search={{ from: String(order.revision), to: String(order.newerRevision) }}
          >
            what changed
          </Link>
        </p>
      )}
    </div>
  )
}

function PartSheet({ part }: { part: Part }) {
  const [open, setOpen] = useState(part.state === 'now' || part.state === 'open')
  if (part.state === 'later')
    return (
      <section id={part.id} className="part later">
        <h2>{part.title}</h2>
      </section>
    )
  return (
    <section id={part.id} className={`part sheet ${part.state}`}>
      <details open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary>
          <h2>{part.title}</h2>
          {part.line && <span className="part-line">{part.line}</span>}
        </summary>
        {(open || !part.fetches) && <div className="stack part-body">{part.body}</div>}
      </details>
    </section>
  )
}

const nowPart: Record<OrderView['next']['kind'], string> = {
  'take-before': 'before',
  plan: 'plan',
  agree: 'customer',
  run: 'run',
  'take-after': 'after',
  reseat: 'check',
  'swap-test': 'check',
  watch: 'watch',
  'mark-ready': 'check',
  'hand-back': 'hand-back',
  resume: 'journal',
  none: '',
}

function partsOf(order: OrderView): Part[] {
  const now = nowPart[order.next.kind]
  const { before, after, plan, run, check, next } = order
  const steps = run?.steps ?? []
  const done = steps.filter((s) => s.done).length
  const part = (
    id: string,
    title: string,
    has: boolean | State,
    line: string | null,
    body: ReactNode,
  ): Part => ({
    id,
    title,
    state: id === now ? 'now' : typeof has === 'string' ? has : has ? 'done' : 'later',
    line,
    body,
  })
  return [
    part(
      'taken-in',
      'Taken in',
      true,
      order.intake.complaint,
      <>
        <IntakeFacts order={order} />
        <CustomerWords order={order} />
      </>,
    ),
    part(
      'before',
      'Before',
      before !== null,
      before &&
        `${size(before.reading.memory.installedBytes)} installed, ${size(before.reading.memory.usableBytes)} usable`,
      <>
        {before && <ReadingFacts reading={before} />}
        <ReadingList order={order} phase="before" />
        {may(order, 'read-before') && <ReadingForm order={order} phase="before" now={now === 'before'} />}
      </>,
    ),
    part(
      'plan',
      'Plan',
      plan !== null,
      plan && `${size(plan.expectation.installed)} expected`,
      <>
        {plan && <Expected plan={plan} />}
        {may(order, 'set-plan') && (
          <div>
            <Link
              to="/orders/$number/plan"
              params={{ number: String(order.number) }}
              className={now === 'plan' ? 'button now' : 'button'}
            >
              {plan ? 'Change the plan' : 'Plan it'}
            </Link>
          </div>
        )}
        <Copies order={order} />
      </>,
    ),
    part(
      'customer',
      'Customer’s word',
      order.agreedBy !== null,
      order.agreedBy &&
        `${order.agreedBy}${order.agreed ? `, ${money(order.agreed.total, order.agreed.currency)}` : ''}`,
      <QuotePart order={order} now={now === 'customer'} />,
    ),
    part(
      'run',
      'Run',
      order.agreedBy !== null,
      run && `run ${run.number}: ${done} of ${steps.length} steps`,
      <>
        <RunSummary order={order} now={now === 'run'} />
        <ReadingList order={order} phase="during" />
        {may(order, 'read-open') && <ReadingForm order={order} phase="during" now={false} />}
      </>,
    ),
    part(
      'after',
      'After',
      after !== null,
      after &&
        `${size(after.reading.memory.installedBytes)} installed, ${size(after.reading.memory.usableBytes)} usable`,
      <>
        {after && <ReadingFacts reading={after} />}
        <ReadingList order={order} phase="after" />
        {now === 'after' && may(order, 'read-after') && <ReadingForm order={order} phase="after" now />}
      </>,
    ),
    part(
      'check',
      'Check',
      check !== null,
      check?.sentence ?? null,
      check && (
        <>
          <SwapTest order={order} />
          <Findings check={check} act={(f) => <ActionButton order={order} finding={f} />} />
          <Totals check={check} />
          <DriveRows check={check} />
          <Link to="/orders/$number/check" params={{ number: String(order.number) }}>
            Before, planned and after, slot by slot
          </Link>
          {may(order, 'mark-ready') && <ReadyForm order={order} />}
          {now !== 'after' && may(order, 'read-after') && (
            <div id="again">
              <ReadingForm order={order} phase="after" now={false} />
            </div>
          )}
          {may(order, 'begin-swap-test') && next.kind !== 'swap-test' && check.verdict !== 'as-planned' && (
            <details>
              <summary className="muted">Search for what is at fault</summary>
              <BeginSwapTest order={order} now={false} />
            </details>
          )}
        </>
      ),
    ),
    {
      ...part('scores', 'Benchmarks and load', before ? 'offered' : 'later', null, <Scores order={order} />),
      fetches: true,
    },
    part(
      'watch',
      'Watch',
      order.watch ? 'done' : may(order, 'begin-watch') ? 'offered' : 'later',
      order.watch && (order.watch.outcome ? spoken(order.watch.outcome) : `ask on ${order.watch.dueOn}`),
      <Watching order={order} />,
    ),
    part(
      'hand-back',
      'Hand back',
      handBackState(order),
      oldPartsLine(order),
      <>
        <OldParts order={order} />
        <HandBackForm order={order} />
      </>,
    ),
    {
      ...part(
        'journal',
        'Journal',
        true,
        counted(order.journal.length, 'entry', 'entries'),
        <JournalSection order={order} />,
      ),
      state: 'open',
    },
  ]
}

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

function IntakeFacts({ order }: { order: OrderView }) {
  const i = order.intake
  const facts: [string, string | null][] = [
    ['complaint', i.complaint],
    ['goal', i.goal],
    ['contact', i.contact],
    ['serial', i.serial],
    ['with it', i.accessories],
    ['condition', i.condition],
    ['backup', i.backup],
    [
      'warranty seal',
      { 'no-seal': 'none', given: 'may be broken', refused: 'must stay whole' }[i.sealConsent],
    ],
    ['boot drive', order.copy && `copy ${order.copy.copy}: ${order.copy.text}`],
    ['build', order.variant],
    ['tell apart', order.model.tellApart],
  ]
  return (
    <dl className="facts">
      {facts.map(
        ([name, value]) =>
          value && (
            <div key={name} className="fact">
              <dt>{name}</dt>
              <dd className={name === 'serial' ? 'mono' : undefined}>{value}</dd>
            </div>
          ),
      )}
      <div className="fact">
        <dt>guide</dt>
        <dd>
          <Link to="/guides/$code" params={{ code: order.model.code }}>
            {order.model.code}
          </Link>{' '}
          revision {order.revision}
        </dd>
      </div>
    </dl>
  )
}
