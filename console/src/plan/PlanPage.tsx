import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { type OrderView } from '../api/client'
import { machineQuery, orderQuery, shopQuery } from '../api/queries'
import { Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { lastOf, Meanwhile } from '../parts/useMine'
import { BoardDrawing } from '../positions/BoardDrawing'
import { AlsoHere } from '../order/AlsoHere'
import { may, whyNot } from '../order/acts'
import { exact, money, size, spoken } from '../words'
import { DriveOptions } from './DriveOptions'
import { DriveForm } from './DriveForm'
import { Notes } from './Expected'
import { OptionsPanel } from './OptionsPanel'
import { Positions } from './Positions'
import { Present } from './Present'
import { Shelf } from './Shelf'
import { PlanTotal } from './PlanTotal'
import { SeatBest } from './SeatBest'
import { usePlanning } from './usePlanning'
import './plan.css'

/** The machine in the middle, what is in it left, what could go in it right, the running total below. */
export function PlanPage() {
  const { number } = useParams({ from: '/shell/orders/$number/plan' })
  const order = useQuery(orderQuery(Number(number)))
  useTitle(order.data && `Plan of ${order.data.number}`)
  if (!order.data) return <Waiting error={order.error} />
  if (!may(order.data, 'set-plan'))
    return (
      <div className="page stack">
        <Head order={order.data} />
        <p className="sheet">
          {whyNot(order.data, 'set-plan') ??
            `Order ${number} is ${spoken(order.data.stage)}: its plan stands.`}
        </p>
      </div>
    )
  return <Planning key={order.data.number} order={order.data} />
}

function Head({ order }: { order: OrderView }) {
  return (
    <div className="row">
      <h1>
        Plan{' '}
        <Link to="/orders/$number" params={{ number: String(order.number) }} className="mono">
          {order.number}
        </Link>
      </h1>
      <span>
        {order.model.maker} {order.model.name} · <b>{order.intake.customer}</b>
      </span>
      {order.intake.goal && <span className="muted">{order.intake.goal}</span>}
      <AlsoHere order={order.number} />
    </div>
  )
}

const tabs = { memory: 'Memory', drives: 'Drives', shelf: 'Shelf' }
type Tab = keyof typeof tabs

function Planning({ order }: { order: OrderView }) {
  const planning = usePlanning(order)
  const shop = useQuery(shopQuery).data
  const machine = useQuery(machineQuery(order.intake.serial)).data
  const noted = machine?.noted
  const [point, setPoint] = useState<string | null>(null)
  const [tab, setTab] = useState<Tab>('memory')
  const shown = planning.preview
  const leaving = Object.entries(planning.wishes).flatMap(([id, w]) => (w.what === 'empty' ? [id] : []))
  return (
    <div className="page plan-page">
      <Head order={order} />
      {noted && (
        <p className="sheet small">
          <span className="verdict remark">!</span> Noted by order {noted.order} for this visit:{' '}
          {noted.visit.words}
          {noted.visit.price !== null && (
            <span className="muted">
              {' '}
              ({money(noted.visit.price)} on {exact(noted.visit.at, shop?.zone).slice(0, 10)})
            </span>
          )}{' '}
          {noted.visit.changes.length > 0 && (
            <button className="button" onClick={() => planning.onTakeAll(noted.visit.changes)}>
              Plan it so
            </button>
          )}
        </p>
      )}
      <Meanwhile mine={planning.mine} said={lastOf(order, 'plan-set', 'plan-mended', 'variant-told')}>
        {order.plan
          ? `Another plan was set, for ${size(order.plan.expectation.installed)}.`
          : 'The plan was taken back.'}{' '}
        What is wished here is not set.
      </Meanwhile>
      {machine?.marks.map((m) => (
        <p key={m.slot + m.order} className="sheet small">
          <span className="verdict short">✕ {m.slot}</span> was found at fault by order {m.order}:{' '}
          {m.sentence}
        </p>
      ))}
      <div className="plan-columns">
        <Present order={order} held={planning.held} onHold={planning.setHeld} />
        <section className="sheet stack plan-middle" aria-label="The plan">
          <BoardDrawing
            slots={order.positions.map((p) => p.slot)}
            bays={order.bays}
            here={point ?? planning.refusal?.position}
          />
          <Positions
            order={order}
            wishes={planning.wishes}
            preview={shown}
            held={planning.held}
            refusal={planning.refusal}
            onPut={planning.onPut}
            onWish={planning.onWish}
            onPoint={setPoint}
          />
          {Object.entries(planning.wishes).map(
            ([id, w]) =>
              w.what === 'drive' && (
                <DriveForm
                  key={id}
                  bay={id}
                  wish={w.drive}
                  array={order.keepsArray}
                  others={order.bays.map((b) => b.id).filter((b) => b !== id)}
                  onChange={(drive) => planning.onWish(id, { what: 'drive', drive })}
                />
              ),
          )}
          <SeatBest order={order} planning={planning} />
          {shown && <Notes notes={shown.plan.notes} />}
        </section>
        <section className="sheet stack plan-side" aria-label="What could go in">
          <div className="tabs" role="tablist">
            {Object.entries(tabs).map(([t, title]) => (
              <button key={t} role="tab" aria-selected={tab === t} onClick={() => setTab(t as Tab)}>
                {title}
              </button>
            ))}
          </div>
          {tab === 'memory' ? (
            <OptionsPanel order={order} giveUp={leaving} onTake={planning.onTake} />
          ) : tab === 'drives' ? (
            <DriveOptions order={order} onTake={(o) => planning.onTakeDrives(o.option.changes)} />
          ) : (
            <Shelf
              order={order}
              currency={shop?.terms.currency ?? ''}
              held={planning.held}
              onHold={planning.setHeld}
            />
          )}
        </section>
      </div>
      <PlanTotal order={order} planning={planning} />
    </div>
  )
}
