import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import type { BatchMachineView, BatchStepView } from '../api/client'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { Countdown } from '../run/Countdown'
import { Precaution } from '../run/Precaution'
import '../run/run.css'
import { counted } from '../words'
import { batchRunQuery, useBatchChange } from './useBatch'
import './batch.css'

/** Step after step: who stands at which, and the step said of all of them where nothing is counted in it. */
export function BatchRun() {
  const number = Number(useParams({ from: '/shell/batches/$batch/run' }).batch)
  const run = useQuery(batchRunQuery(number))
  useTitle(`Batch ${number}, step after step`)
  if (!run.data) return <Waiting error={run.error} />
  const of = (order: number) => run.data.machines.find((m) => m.card.number === order)!
  return (
    <div className="page stack batch-run">
      <p>
        <Link to="/batches/$batch" params={{ batch: String(number) }}>
          Back to batch {number}
        </Link>
      </p>
      <h1>
        Batch <span className="mono">{number}</span>, step after step
      </h1>
      {run.data.steps.length === 0 && <p className="sheet">None of its machines stands at a step.</p>}
      {run.data.steps.map((step, i) => (
        <Step key={step.id + step.title} batch={number} step={step} first={i === 0} of={of} />
      ))}
      {run.data.waiting.length > 0 && (
        <p className="muted">
          At no step:{' '}
          {run.data.waiting.map((n) => (
            <Link key={n} to="/orders/$number" params={{ number: String(n) }} className="mono order-link">
              {n}
            </Link>
          ))}
        </p>
      )}
    </div>
  )
}

function Step(props: {
  batch: number
  step: BatchStepView
  first: boolean
  of: (order: number) => BatchMachineView
}) {
  const { step } = props
  const change = useBatchChange(props.batch)
  const confirm = (orders: number[]) =>
    change.send({ path: `run/steps/${encodeURIComponent(step.id)}`, body: { orders, note: null } })
  const cooling = step.orders.filter((n) => props.of(n).card.coolsUntil)
  return (
    <section className="sheet stack" aria-label={step.title}>
      <p className="muted small">
        {step.part} · {counted(step.orders.length, 'machine', 'machines')}
      </p>
      {step.precautions.map((p) => (
        <Precaution key={p.text} kind={p.kind} text={p.text} />
      ))}
      <h2 className="batch-step">{step.title}</h2>
      <ul>
        {step.lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {cooling[0] !== undefined && (
        <Countdown until={props.of(cooling[0]).card.coolsUntil!} label="cooling" />
      )}
      <ul className="machines step-machines">
        {step.orders.map((n) => (
          <li key={n} className="step-machine">
            <span>
              <b className="mono">{n}</b> <span className="mono small wraps">{props.of(n).serial}</span>
              <br />
              <span className="muted small">{props.of(n).card.owner ?? 'nobody yet'}</span>
            </span>
            {step.together ? (
              <button
                className="button"
                aria-label={`Done on ${n}`}
                disabled={change.isPending}
                onClick={() => confirm([n])}
              >
                Done
              </button>
            ) : (
              <Link
                to="/orders/$number/run"
                params={{ number: String(n) }}
                className="button"
                aria-label={`Open ${n}`}
              >
                Open
              </Link>
            )}
          </li>
        ))}
      </ul>
      <Trouble error={change.error} />
      {step.together ? (
        step.orders.length > 1 && (
          <div>
            <button
              className={props.first ? 'button now' : 'button'}
              disabled={change.isPending}
              onClick={() => confirm(step.orders)}
            >
              Done on all {step.orders.length}
            </button>
          </div>
        )
      ) : (
        <p className="small muted">Something is counted or written down here: machine by machine.</p>
      )}
    </section>
  )
}
