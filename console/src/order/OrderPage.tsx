import { AsOf } from '../away/AsOf'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { useEffect, useRef, useState } from 'react'
import type { OrderView } from '../api/client'
import { orderQuery } from '../api/queries'
import { Due } from '../parts/Due'
import { Waiting } from '../parts/Trouble'
import { VerdictMark } from '../parts/VerdictMark'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import { PositionDrawing } from '../positions/PositionDrawing'
import { spoken } from '../words'
import { Countdown } from '../run/Countdown'
import { Expected } from '../plan/Expected'
import { InBatch } from '../batch/InBatch'
import { AlsoHere } from './AlsoHere'
import { AddPosition } from './AddPosition'
import { Adopt } from './Adopt'
import { may } from './acts'
import { Holds } from './Holds'
import { NearlyFull } from './LaterVisit'
import { Now } from './Now'
import { partsOf, type Part } from './orderParts'
import { Shared } from './Shared'
import './order.css'

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
      <Head order={order.data} parts={parts} at={order.dataUpdatedAt} />
      <div className="stack order-main">
        {parts.map((p) => (
          <PartSheet key={p.id} part={p} />
        ))}
      </div>
      <aside className="order-aside" aria-label="Positions">
        <PositionDrawing positions={order.data.positions} compact />
        {order.data.plan && <Expected plan={order.data.plan} check={order.data.check} />}
      </aside>
    </div>
  )
}

function Head({ order, parts, at }: { order: OrderView; parts: Part[]; at: number }) {
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
        <AsOf at={at} />
        <AlsoHere order={order.number} />
      </p>
      <Now order={order} parts={parts} />
      <InBatch order={order} />
      <Shared order={order} />
      {order.reason && (
        <p className="trouble">
          {order.reason} {order.parkedUntil && <Due at={order.parkedUntil} label="until" />}
        </p>
      )}
      <Holds order={order} />
      <NearlyFull order={order} />
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
      {order.newerRevision && may(order, 'adopt-guide') && <Adopt order={order} />}
      {order.model.sketch && (
        <>
          <p className="small">
            <b className="sketch-mark">sketch</b> Nobody has written this model&apos;s guide yet: what is done
            here writes it.
          </p>
          {may(order, 'tell-position') && <AddPosition order={order} />}
        </>
      )}
    </div>
  )
}

/** Whether somebody is writing in it. */
const types = (within: HTMLElement) => {
  const field = document.activeElement
  return (
    within.contains(field) &&
    (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) &&
    field.value !== ''
  )
}

function PartSheet({ part }: { part: Part }) {
  const isNext = part.state === 'now' || part.state === 'open'
  const [open, setOpen] = useState(isNext)
  const sheet = useRef<HTMLElement>(null)
  // What somebody else did folds nothing under the hands of whoever types in it.
  useEffect(() => {
    const follow = () => setOpen((was) => isNext || (was && types(sheet.current!)))
    if (sheet.current) follow()
  }, [isNext, part.state])
  // Who is sent here finds it open.
  useEffect(() => {
    const arrive = () => location.hash === `#${part.id}` && setOpen(true)
    arrive()
    addEventListener('hashchange', arrive)
    return () => removeEventListener('hashchange', arrive)
  }, [part.id])
  if (part.state === 'later')
    return (
      <section id={part.id} className="part later">
        <h2>{part.title}</h2>
      </section>
    )
  return (
    <section id={part.id} className={`part sheet ${part.state}`} ref={sheet}>
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
