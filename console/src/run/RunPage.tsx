import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import type { OrderView, StepView } from '../api/client'
import { useLiveChanges } from '../api/live'
import { orderQuery } from '../api/queries'
import { Waiting } from '../parts/Trouble'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import { AlsoHere } from '../order/AlsoHere'
import { may } from '../order/acts'
import { Countdown } from './Countdown'
import { Refused } from './Refused'
import { StepSheet } from './StepSheet'
import { Stopped } from './Stopped'
import { useMe } from '../api/me'
import { Door } from '../people/Door'
import { HandsNow } from '../people/Tablet'
import { AsOf } from '../away/AsOf'
import { sayOf, useSaid, type Say } from '../away/queue'
import { KeptHere } from '../away/KeptHere'
import { serverNow } from '../api/clock'
import { coolsUntil, heldHere, stopHere, stopsHere, toldOf } from './pending'
import { scannedOrder, useScan } from './scan'
import { byPart, nextStep, stepsAfter } from './steps'
import '../order/order.css'
import './run.css'
import { Name } from '../people/Name'

/** The run on a tablet: one step large, the next in sight. */
export const RunPage = () => (
  <Door>
    <Opened />
  </Door>
)

function Opened() {
  const { number } = useParams({ from: '/orders/$number/run' })
  const connected = useLiveChanges()
  const query = useQuery(orderQuery(Number(number)))
  useTitle(query.data && `Run of ${query.data.number}`)
  if (!query.data) return <Waiting error={query.error} />
  return (
    <Run key={query.data.run?.number} order={query.data} at={query.dataUpdatedAt} connected={connected} />
  )
}

function Run({ order, at, connected }: { order: OrderView; at: number; connected: boolean }) {
  const queue = useSaid(order.number)
  const say = sayOf(order.number)
  const [picked, setPicked] = useState<string | null>(null)
  const navigate = useNavigate()
  const me = useMe()
  const steps = order.run?.steps ?? []
  const waiting = queue.said.filter((s) => !s.refused)
  const away = !connected || queue.lost
  const held = away ? heldHere(order, waiting) : undefined
  const told = toldOf(steps, waiting)
  const settled = (id: string) =>
    steps.some((s) => s.step.id === id && s.settled) ||
    waiting.some((s) => s.confirms && s.step === id && s.key !== held?.key)
  const open = (id: string | undefined) => steps.find((s) => s.step.id === id && !settled(s.step.id))
  // What was refused comes back before anything else.
  const back = queue.said.find((s) => s.refused && s.confirms && open(s.step)) ?? held
  const shown = open(picked ?? undefined) ?? open(back?.step) ?? nextStep(steps, settled)
  const following = shown ? stepsAfter(steps, shown.step.id, settled) : []
  const stop = stopHere(order, waiting)
  useScan((text) => {
    const step = /^revtal:step:(.+)$/.exec(text)?.[1]
    const other = scannedOrder(text)
    if (step) setPicked(step)
    else if (other) void navigate({ to: '/orders/$number/run', params: { number: other } })
    else window.dispatchEvent(new CustomEvent('revtal:scan', { detail: text }))
  })
  return (
    <main className="run">
      <header className="run-top">
        <Link to="/orders/$number" params={{ number: String(order.number) }} className="button">
          ← {order.number}
        </Link>
        <span className="run-machine">
          {order.model.maker} {order.model.name}
          {order.variant && <b className="mono"> {order.variant}</b>}
          {order.run &&
            order.run.reseat.length > 0 &&
            `, ${order.run.mends ? 'change' : 'reseat'} of ${order.run.reseat.join(', ')}`}
        </span>
        {steps
          .filter((s) => s.step.timedFrom && !settled(s.step.id))
          .map((s) => ({ id: s.step.id, until: coolsUntil(s, told) }))
          .map(({ id, until }) => until && <Countdown key={id} until={until} label="cooling" />)}
        {away && (
          <span className="offline" role="status">
            Not connected <AsOf at={at} />.{' '}
            {waiting.length > 0 ? `${waiting.length} kept here` : 'Go on: it is kept here'}
          </span>
        )}
        {!away && <KeptHere order={order.number} />}
        <AlsoHere order={order.number} />
        <HandsNow me={me} />
        <Strip steps={steps} shown={shown?.step.id} settled={settled} />
      </header>
      <div className="run-body">
        <Refused said={queue.said} shown={shown?.step.id} again={queue.again} drop={queue.drop} />
        {order.run?.stop && <Stopped stop={order.run.stop} say={say} />}
        {stop && <Stopped stop={{ spoken: 'a swollen battery', by: stop.by, text: null }} say={say} />}
        {order.handOver && !waiting.some((s) => s.path.endsWith(readPath)) ? (
          <HandedOver over={order.handOver} say={say} />
        ) : shown ? (
          <StepSheet
            key={`${shown.step.id}-${order.run?.number}`}
            order={order}
            view={shown}
            following={following}
            refused={
              queue.said.find((s) => s.refused && s.step === shown.step.id) ??
              (held?.step === shown.step.id ? held : undefined)
            }
            waiting={waiting.filter((s) => s.step === shown.step.id)}
            coolsUntil={coolsUntil(shown, told)}
            closed={(wish) => (away ? stopsHere(order, shown, waiting, wish, serverNow()) : null)}
            say={(what) => {
              if (what.confirms) setPicked(null)
              say(what)
            }}
            dismiss={queue.drop}
          />
        ) : (
          <Finished order={order} sending={waiting.length > 0} />
        )}
      </div>
      {order.run && (
        <AllSteps order={order} settled={settled} sending={waiting.length > 0} pick={setPicked} say={say} />
      )}
    </main>
  )
}

const readPath = 'hand-over/read'

/** What whoever goes on must have read: the step comes after it. */
function HandedOver({ over, say }: { over: NonNullable<OrderView['handOver']>; say: Say }) {
  return (
    <section className="step handed-over" role="alert">
      <p className="muted">
        <Name id={over.by} /> handed it over <When at={over.at} />
      </p>
      <h1>{over.word}</h1>
      <div>
        <button
          className="button now"
          onClick={() =>
            say({
              path: readPath,
              body: null,
              step: 'run',
              title: 'Read what was handed over',
              confirms: false,
            })
          }
        >
          I have read it
        </button>
      </div>
    </section>
  )
}

function AllSteps(props: {
  order: OrderView
  settled: (id: string) => boolean
  /** Something is on its way: which step was the last is not known until it is there. */
  sending: boolean
  pick: (id: string) => void
  say: Say
}) {
  const run = props.order.run!
  return (
    <details className="run-all">
      <summary>
        All steps{' '}
        <span className="muted">
          ({run.tally.out} fasteners out, {run.tally.back} back)
        </span>
      </summary>
      <ol>
        {run.steps.map((s) => (
          <li key={s.step.id}>
            {props.settled(s.step.id) ? (
              <span>
                ■ {s.step.title} <span className="muted">{told(s)}</span>
                {s.done && (
                  <span className="muted">
                    <Name id={s.done.by} />, <When at={s.done.at} />
                    {s.done.note && ` – ${s.done.note}`}
                  </span>
                )}{' '}
                {!props.sending && s.step.id === run.lastStep && may(props.order, 'take-step-back') && (
                  <button
                    className="button"
                    onClick={() =>
                      props.say({
                        path: `steps/${encodeURIComponent(s.step.id)}/take-back`,
                        body: { reason: null },
                        step: s.step.id,
                        title: `Taking back: ${s.step.title}`,
                        confirms: false,
                      })
                    }
                  >
                    Take it back
                  </button>
                )}
              </span>
            ) : (
              <button className="icon" onClick={() => props.pick(s.step.id)}>
                □ {s.step.title}
                {s.blocked && <span className="verdict short"> cannot be done: {s.blocked.reason}</span>}
              </button>
            )}
          </li>
        ))}
      </ol>
      <p>
        <a href={`/api/v1/orders/${props.order.number}/run.pdf`} target="_blank" rel="noreferrer">
          The sheet on paper
        </a>
      </p>
    </details>
  )
}

const told = (s: StepView) =>
  s.done?.deviation ? `${s.done.deviation}, ` : s.done ? '' : s.settled ? 'waived' : 'on its way'

/** The way through the run: its parts, and what comes off and goes back on by name. */
function Strip(props: { steps: StepView[]; shown: string | undefined; settled: (id: string) => boolean }) {
  const done = props.steps.filter((s) => props.settled(s.step.id)).length
  return (
    <div className="strip" role="img" aria-label={`${done} of ${props.steps.length} steps done`}>
      {byPart(props.steps).map((group, i) => (
        <div
          key={`${group.part}-${i}`}
          style={{ flexGrow: Math.max(group.steps.length, stripLabel(group).length / 9) }}
          className="strip-part"
        >
          <div className="strip-bars">
            {group.steps.map((s) => (
              <i
                key={s.step.id}
                className={props.settled(s.step.id) ? 'done' : s.step.id === props.shown ? 'here' : ''}
              />
            ))}
          </div>
          <span>{stripLabel(group)}</span>
        </div>
      ))}
    </div>
  )
}

function stripLabel({ part, steps }: { part: string; steps: StepView[] }) {
  const removals = [...new Set(steps.map((s) => s.step.removalTitle).filter(Boolean))]
  const positions = steps.map((s) => s.step.position).filter(Boolean)
  const names = removals.length > 0 ? removals : positions
  return names.length > 0 ? `${part} ${names.join(', ')}` : part
}

function Finished({ order, sending }: { order: OrderView; sending: boolean }) {
  return (
    <section className="step">
      <h1>{!order.run ? 'There is no plan yet.' : sending ? 'Sending…' : 'All steps are done.'}</h1>
      {order.next.text && !sending && <p>Next: {order.next.text}</p>}
      <div>
        <Link to="/orders/$number" params={{ number: String(order.number) }} className="button now">
          To the order
        </Link>
      </div>
    </section>
  )
}
