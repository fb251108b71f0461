import { TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { api, Problem, type OrderView, type StepView } from '../api/client'
import { useLiveChanges } from '../api/live'
import { orderQuery, useChange } from '../api/queries'
import { Trouble, Waiting } from '../parts/Trouble'
import { When } from '../parts/When'
import { PositionDrawing } from '../positions/PositionDrawing'
import { Cover, fastenerKeys } from './Cover'
import '../order/order.css'
import './run.css'

/** The run on a tablet: one step large, the next in sight. */
export function RunPage() {
  const { number } = useParams({ from: '/orders/$number/run' })
  const connected = useLiveChanges()
  const query = useQuery(orderQuery(Number(number)))
  const [picked, setPicked] = useState<string | null>(null)
  if (!query.data) return <Waiting error={query.error} />
  const order = query.data
  const steps = order.run?.steps ?? []
  const shown =
    steps.find((s) => s.step.id === picked && !s.done) ?? steps.find((s) => s.step.id === order.run?.nextStep)
  const following = steps.find((s) => !s.done && s !== shown)
  return (
    <main className="run">
      <header className="run-top">
        <Link to="/orders/$number" params={{ number }} className="button">
          ← {number}
        </Link>
        <span>
          {order.model.maker} {order.model.name}
          {order.run && order.run.reseat.length > 0 && `, reseat of ${order.run.reseat.join(', ')}`}
        </span>
        {!connected && (
          <span className="offline" role="status">
            Not connected
          </span>
        )}
        <Strip steps={steps} shown={shown?.step.id} />
      </header>
      {shown ? (
        <StepSheet
          key={`${shown.step.id}-${order.run?.number}`}
          order={order}
          view={shown}
          following={following}
          onDone={() => setPicked(null)}
        />
      ) : (
        <Finished order={order} />
      )}
      {order.run && (
        <details className="run-all">
          <summary>
            All steps{' '}
            <span className="muted">
              ({order.run.tally.out} fasteners out, {order.run.tally.back} back)
            </span>
          </summary>
          <ol>
            {steps.map((s) => (
              <li key={s.step.id}>
                {s.done ? (
                  <span>
                    ■ {s.step.title}{' '}
                    <span className="muted">
                      {s.done.by}, <When at={s.done.at} />
                    </span>
                  </span>
                ) : (
                  <button className="icon" onClick={() => setPicked(s.step.id)}>
                    □ {s.step.title}
                  </button>
                )}
              </li>
            ))}
          </ol>
        </details>
      )}
    </main>
  )
}

function Strip({ steps, shown }: { steps: StepView[]; shown: string | undefined }) {
  const done = steps.filter((s) => s.done).length
  return (
    <div className="strip" role="img" aria-label={`${done} of ${steps.length} steps done`}>
      {steps.map((s) => (
        <i key={s.step.id} className={s.done ? 'done' : s.step.id === shown ? 'here' : ''} />
      ))}
    </div>
  )
}

type StepProps = { order: OrderView; view: StepView; following: StepView | undefined; onDone: () => void }

function StepSheet({ order, view: { step }, following, onDone }: StepProps) {
  const counts = step.part === 'open' || step.part === 'close'
  const all = counts ? fastenerKeys(step.fasteners) : []
  const [counted, setCounted] = useState<ReadonlySet<string>>(new Set())
  const [explanation, setExplanation] = useState('')
  const [note, setNote] = useState('')
  const [noting, setNoting] = useState(false)
  const change = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/steps/{step}', {
      params: { path: { number: order.number, step: step.id }, header },
      body: {
        fasteners: all.length > 0 ? counted.size : null,
        explanation: explanation || null,
        note: note || null,
      },
    }),
  )
  const toggle = (key: string) =>
    setCounted(new Set(counted.has(key) ? [...counted].filter((k) => k !== key) : [...counted, key]))
  const differs =
    change.error instanceof Problem &&
    ['tally-open', 'count-differs'].includes(change.error.code) &&
    all.length > 0
  return (
    <section className="step" aria-live="polite">
      <p className="muted">{step.part}</p>
      {step.precautions.map((p) => (
        <p key={p.text} className="precaution">
          <b>{p.kind}</b>
          <span>{p.text}</span>
        </p>
      ))}
      <h1>{step.title}</h1>
      <div className={step.fasteners.length > 0 || step.slot ? 'step-body with-cover' : 'step-body'}>
        <div className="stack">
          <div>
            {step.details.map((d) => (
              <p key={d}>{d}</p>
            ))}
          </div>
          {step.traps.map((t) => (
            <p key={t} className="precaution trap">
              <b>trap</b>
              <span>{t}</span>
            </p>
          ))}
          {all.length > 0 && (
            <div className="row">
              <span className="count">
                <b className="mono">{counted.size}</b> of {all.length} {step.part === 'open' ? 'out' : 'back'}
              </span>
              <button
                className="button"
                onClick={() => setCounted(new Set(counted.size === all.length ? [] : all))}
              >
                {counted.size === all.length ? 'None' : `All ${all.length}`}
              </button>
              {all.map((key, i) => (
                <button
                  key={key}
                  className={counted.has(key) ? 'peg on' : 'peg'}
                  aria-pressed={counted.has(key)}
                  aria-label={`Fastener ${i + 1} of ${all.length}, ${key.split('/')[0]}`}
                  onClick={() => toggle(key)}
                >
                  {i + 1}
                </button>
              ))}
            </div>
          )}
          {differs && (
            <TextInput
              label="Why the count differs"
              size="md"
              value={explanation}
              onChange={(e) => setExplanation(e.target.value)}
            />
          )}
          {noting && (
            <TextInput
              label="Note"
              size="md"
              value={note}
              onChange={(e) => setNote(e.target.value)}
              autoFocus
            />
          )}
        </div>
        {step.slot && <PositionDrawing positions={order.positions} compact here={step.slot} />}
        <Cover groups={step.fasteners} counted={counted} onToggle={counts ? toggle : undefined} />
      </div>
      <Trouble error={change.error} />
      <div className="step-foot">
        <button className="button" onClick={() => setNoting(!noting)}>
          Note
        </button>
        <p className="muted following">
          {following ? `then: ${following.step.title}` : 'then: the after reading'}
        </p>
        <button
          className="button now done-button"
          autoFocus
          disabled={change.isPending}
          onClick={() => change.send(null, onDone)}
        >
          Done
        </button>
      </div>
    </section>
  )
}

function Finished({ order }: { order: OrderView }) {
  return (
    <section className="step">
      <h1>{order.run ? 'All steps are done.' : 'There is no plan yet.'}</h1>
      {order.next.text && <p>Next: {order.next.text}</p>}
      <div>
        <Link to="/orders/$number" params={{ number: String(order.number) }} className="button now">
          To the order
        </Link>
      </div>
    </section>
  )
}
