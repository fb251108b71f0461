import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import type { OrderView } from '../api/client'
import { orderQuery } from '../api/queries'
import { Waiting } from '../parts/Trouble'
import { VerdictMark } from '../parts/VerdictMark'
import { useTitle } from '../parts/title'
import { isOff, PositionDrawing, roomy } from '../positions/PositionDrawing'
import { size } from '../words'
import { ActionButton } from './ActionButton'
import { Findings, Totals } from './CheckParts'
import { DriveRows } from './Drives'
import { SwapTest } from './SwapTest'
import './order.css'

/** The proof, large: the drawing, the table under it column by column, totals and findings. */
export function CheckPage() {
  const { number } = useParams({ from: '/shell/orders/$number/check' })
  const order = useQuery(orderQuery(Number(number)))
  useTitle(order.data && `Check of ${order.data.number}`)
  if (!order.data) return <Waiting error={order.error} />
  const { check, positions, model, intake } = order.data
  return (
    <div className="page stack">
      <p>
        <Link to="/orders/$number" params={{ number }}>
          Order {number}
        </Link>{' '}
        <span className="muted">
          {model.maker} {model.name}, {intake.customer}
        </span>
      </p>
      {check ? (
        <>
          <div>
            <VerdictMark verdict={check.verdict} />
            <h1>{check.sentence}</h1>
          </div>
          <SwapTest order={order.data} />
          <div className="check-page">
            <div className="sheet check-sheet">
              {chunks(positions).map((row) => (
                <div
                  key={row[0]!.slot.id}
                  style={{ maxWidth: (roomy.label + row.length * roomy.column) * 1.5 }}
                >
                  <PositionDrawing positions={row} />
                  <SlotGrid positions={row} />
                </div>
              ))}
              <DriveRows check={check} />
            </div>
            <div className="sheet stack">
              <h2>Findings</h2>
              <Findings check={check} act={(f) => <ActionButton order={order.data} finding={f} />} />
              <Totals check={check} />
            </div>
          </div>
        </>
      ) : (
        <h1>No after reading yet. {order.data.next.text}.</h1>
      )}
    </div>
  )
}

const chunks = (positions: OrderView['positions']) =>
  Array.from({ length: Math.ceil(positions.length / 4) }, (_, i) => positions.slice(i * 4, i * 4 + 4))

// The columns are those of the drawing: a margin for the names, then one a slot.
function SlotGrid({ positions }: { positions: OrderView['positions'] }) {
  const columns = { gridTemplateColumns: `${roomy.label}fr repeat(${positions.length}, ${roomy.column}fr)` }
  const rows: [string, (p: OrderView['positions'][number]) => string, boolean?][] = [
    ['before', (p) => p.before?.spoken ?? ''],
    ['planned', (p) => (p.planned?.module ? size(p.planned.module.size) : 'empty')],
    ['after', (p) => (p.match === 'missing' ? 'not seen' : (p.after?.spoken ?? '')), true],
    ['part', (p) => p.after?.module?.partNumber ?? ''],
    ['MT/s', (p) => String(p.after?.runningSpeed ?? '')],
  ]
  return (
    <div className="check-grid" role="table" aria-label="Slots">
      {rows.map(([name, text, marks]) => (
        <div key={name} role="row" style={columns}>
          <span role="rowheader">{name}</span>
          {positions.map((p) => (
            <span key={p.slot.id} role="cell" className={marks && isOff(p) ? 'off' : undefined}>
              {marks && isOff(p) ? `≠ ${text(p)}` : text(p)}
            </span>
          ))}
        </div>
      ))}
    </div>
  )
}
