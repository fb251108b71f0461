import { TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import type { BatchView } from '../api/client'
import { shopQuery } from '../api/queries'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { counted, money, size, stagesSaid } from '../words'
import { BatchPlan } from './BatchPlan'
import { BatchQuote } from './BatchQuote'
import { Machines } from './Machines'
import { batchQuery, ordersFor, useBatchChange } from './useBatch'
import './batch.css'

/** Machines that are worked on together: side by side, with what they want and what they cost. */
export function BatchPage() {
  const number = Number(useParams({ from: '/shell/batches/$batch' }).batch)
  const query = useQuery(batchQuery(number))
  useTitle(query.data && `Batch ${query.data.number}, ${query.data.customer}`)
  if (!query.data) return <Waiting error={query.error} />
  const batch = query.data
  return (
    <div className="page batch-page">
      <div className="stack">
        <h1>
          Batch <span className="mono">{batch.number}</span>:{' '}
          {counted(batch.machines.length, 'machine', 'machines')}, {batch.machine}
        </h1>
        <p className="row">
          <b>{batch.customer}</b>
          <span>{stagesSaid(batch.totals.stages)}</span>
        </p>
        <Now batch={batch} />
        <section className="sheet stack" aria-labelledby="machines">
          <h2 id="machines">Machines</h2>
          <Machines machines={batch.machines} />
          {batch.gone.map((g) => (
            <p key={g.order} className="small">
              <Link to="/orders/$number" params={{ number: String(g.order) }} className="mono">
                {g.order}
              </Link>{' '}
              <span className="mono">{g.serial}</span> left: {g.reason}
            </p>
          ))}
        </section>
        <Report batch={batch} />
      </div>
      <aside className="stack">
        <Differences batch={batch} />
        {batch.parts.length > 0 && <Parts batch={batch} />}
        {batch.quote && (
          <section className="sheet stack">
            <h2>Quote for all</h2>
            <BatchQuote batch={batch} />
          </section>
        )}
        <Hands batch={batch} />
      </aside>
    </div>
  )
}

// What the batch waits for as a whole: the earliest of it carries the lamp.
function Now({ batch }: { batch: BatchView }) {
  const change = useBatchChange(batch.number)
  const [to, setTo] = useState('')
  const unread = batch.machines.filter((m) => m.card.stage === 'taken-in')
  const run = ordersFor(batch, 'confirm-step')
  const ready = ordersFor(batch, 'mark-ready')
  const back = ordersFor(batch, 'hand-back')
  return (
    <>
      {unread.length > 0 && (
        <p className="sheet">
          {counted(unread.length, 'machine is', 'machines are')} not measured yet:{' '}
          {unread.map((m) => (
            <Link
              key={m.card.number}
              to="/orders/$number"
              params={{ number: String(m.card.number) }}
              className="mono order-link"
            >
              {m.card.number}
            </Link>
          ))}
        </p>
      )}
      <BatchPlan batch={batch} />
      {(run.length > 0 || ready.length > 0 || back.length > 0) && (
        <section className="sheet stack" aria-label="What is to be done">
          {run.length > 0 && (
            <p className="row">
              <Link to="/batches/$batch/run" params={{ batch: String(batch.number) }} className="button now">
                Work step after step
              </Link>
              <span>{counted(run.length, 'machine', 'machines')} to open, fit and close</span>
            </p>
          )}
          {ready.length > 0 && (
            <p className="row">
              <button
                className={run.length ? 'button' : 'button now'}
                disabled={change.isPending}
                onClick={() => change.send({ path: 'ready', body: { reason: null } })}
              >
                Mark {counted(ready.length, 'machine', 'machines')} ready
              </button>
            </p>
          )}
          {back.length > 0 && (
            <form
              className="row"
              onSubmit={(e) => {
                e.preventDefault()
                change.send({ path: 'hand-back', body: { to, oldParts: null } })
              }}
            >
              <TextInput label="Who takes them" value={to} onChange={(e) => setTo(e.target.value)} />
              <button
                className={run.length || ready.length ? 'button low' : 'button now low'}
                disabled={!to.trim() || change.isPending}
              >
                Hand back {counted(back.length, 'machine', 'machines')}
              </button>
            </form>
          )}
          <Trouble error={change.error} />
        </section>
      )}
    </>
  )
}

function Differences({ batch }: { batch: BatchView }) {
  return (
    <section className="sheet stack">
      <h2>What is in them</h2>
      <ul className="stack likenesses">
        {batch.likenesses.map((l, i) => (
          <li key={l.holds}>
            <b>{counted(l.orders.length, 'machine', 'machines')}</b>
            {i > 0 && <span className="mono"> {l.orders.join(', ')}</span>}
            <br />
            <span className={i > 0 ? 'differs' : undefined}>{l.holds}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Parts({ batch }: { batch: BatchView }) {
  return (
    <section className="sheet stack">
      <h2>Parts</h2>
      <table className="slots-table">
        <thead>
          <tr>
            <th>part</th>
            <th className="num">wanted</th>
            <th className="num">set aside</th>
            <th className="num">short</th>
          </tr>
        </thead>
        <tbody>
          {batch.parts.map((p) => (
            <tr key={p.number}>
              <td>
                <span className="mono">{p.number}</span>
                <br />
                {p.name}
              </td>
              <td className="num">{p.wanted}</td>
              <td className="num">{p.setAside}</td>
              <td className={p.short ? 'num verdict short' : 'num'}>{p.short}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {batch.parts.some((p) => p.short > 0) && (
        <p className="small">
          Order what is short. Until it comes these go without:{' '}
          <span className="mono wraps">{batch.parts.flatMap((p) => p.lack).join(', ')}</span>
        </p>
      )}
    </section>
  )
}

function Hands({ batch }: { batch: BatchView }) {
  const people = useQuery(shopQuery).data?.people.filter((p) => p.role !== 'desk') ?? []
  const [chosen, setChosen] = useState<string[]>([])
  const change = useBatchChange(batch.number)
  const open = batch.machines.filter((m) => !['handed-back', 'cancelled'].includes(m.card.stage))
  if (open.length === 0) return null
  return (
    <section className="sheet stack">
      <h2>In whose hands</h2>
      <div className="row" role="group" aria-label="Who shares the work">
        {people.map((p) => (
          <button
            key={p.id}
            type="button"
            className="button pick"
            aria-pressed={chosen.includes(p.id)}
            onClick={() =>
              setChosen(chosen.includes(p.id) ? chosen.filter((c) => c !== p.id) : [...chosen, p.id])
            }
          >
            {p.name.split(' ')[0]}
          </button>
        ))}
      </div>
      <Trouble error={change.error} />
      <div>
        <button
          className="button"
          disabled={chosen.length === 0 || change.isPending}
          onClick={() =>
            change.send({ path: 'hands', body: { people: chosen, only: null } }, () => setChosen([]))
          }
        >
          Give out {counted(open.length, 'machine', 'machines')}
        </button>
      </div>
    </section>
  )
}

/** The list at the end, with its totals. */
function Report({ batch }: { batch: BatchView }) {
  const t = batch.totals
  return (
    <section className="sheet stack" aria-labelledby="report">
      <h2 id="report">What it came to</h2>
      <table className="slots-table">
        <tbody>
          <tr>
            <th scope="row">Machines</th>
            <td>
              {t.machines}: {t.good} as planned, {t.bad} short or not seen, {t.machines - t.good - t.bad} not
              checked or unknown
            </td>
          </tr>
          <tr>
            <th scope="row">Memory</th>
            <td>
              {t.before === null ? 'not all measured' : size(t.before)} before,{' '}
              {t.after === null ? 'not all measured' : size(t.after)} after
            </td>
          </tr>
          <tr>
            <th scope="row">On the bench</th>
            <td>{t.minutes} min</td>
          </tr>
          {batch.currency && (
            <tr>
              <th scope="row">Agreed</th>
              <td>{money(t.total, batch.currency)}</td>
            </tr>
          )}
        </tbody>
      </table>
      <p>
        <a href={`/api/v1/batches/${batch.number}/report.csv`}>The list as a table (CSV)</a>
      </p>
    </section>
  )
}
