import { useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { api, type OrderView } from '../api/client'
import { shopQuery, useChange, useOnTop } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { same } from '../parts/useMine'
import { money, size } from '../words'
import { planOf, type Planning } from './usePlanning'
import type { Held } from './wishes'

/** The running total, and the press that sets the plan. */
export function PlanTotal({ order, planning }: { order: OrderView; planning: Planning }) {
  const navigate = useNavigate()
  const shown = planning.preview
  const { changes, discount, later, cleans } = planning
  const cleaning = useQuery(shopQuery).data?.terms.cleaningPrice
  const onTop = useOnTop(order, (now) => same(planOf(now), planning.mine.base))
  const change = useChange(async (_: null, header) =>
    onTop((match) =>
      api.POST('/api/v1/orders/{number}/plan', {
        params: { path: { number: order.number }, header: { ...header, ...match } },
        body: { changes, discount, later, cleans },
      }),
    ),
  )
  return (
    <footer className="plan-total" aria-label="Running total">
      {planning.held ? (
        <p role="status">
          In the hand: <b>{heldWords(planning.held)}</b>. Press the position, or Escape to let go.
        </p>
      ) : (
        <dl className="total-facts">
          <Fact name="before" value={size(order.before?.reading.memory.installedBytes)} />
          <Fact name="then" value={shown ? size(shown.plan.expectation.installed) : '–'} strong />
          {later && <Fact name="next visit" value={later.words} inWords />}
          <Fact
            name="speed"
            value={shown?.plan.expectation.runningSpeed ? `${shown.plan.expectation.runningSpeed} MT/s` : '–'}
          />
          <Fact name="channels" value={shown?.plan.expectation.channels ?? '–'} inWords />
          <Fact name="opens" value={shown ? opens(shown.removals) : '–'} inWords />
          <Fact name="work" value={shown ? `${shown.quote.minutes} min` : '–'} />
          <Fact
            name={shown && shown.quote.unpriced.length > 0 ? 'without a price yet' : 'total'}
            value={shown ? money(shown.quote.total, shown.quote.currency) : '–'}
            strong
          />
        </dl>
      )}
      {(cleans || typeof cleaning === 'number') && (
        <label className="extra">
          <span className="muted small">
            cleaning{typeof cleaning === 'number' && `, ${money(cleaning)}`}
          </span>
          <input type="checkbox" checked={cleans} onChange={(e) => planning.setCleans(e.target.checked)} />
        </label>
      )}
      <label className="extra">
        <span className="muted small">discount, %</span>
        <input
          type="number"
          min={0}
          max={100}
          value={discount}
          onChange={(e) => planning.setDiscount(Math.min(100, Math.max(0, Number(e.target.value) || 0)))}
        />
      </label>
      <button
        className="button now"
        disabled={
          changes.length === 0 || planning.mine.theirs !== null || change.isPending || planning.isRefused
        }
        onClick={() =>
          change.send(
            null,
            (receipt) => void navigate({ to: '/orders/$number', params: { number: String(receipt.order) } }),
          )
        }
      >
        {order.plan ? 'Change the plan' : 'Set the plan'}
      </button>
      <Trouble error={change.error} />
    </footer>
  )
}

function Fact(props: { name: string; value: string; strong?: boolean; inWords?: boolean }) {
  const { name, value, strong = false, inWords = false } = props
  return (
    <div>
      <dt className="muted small">{name}</dt>
      <dd className={strong ? 'mono strong' : inWords ? '' : 'mono'}>{value}</dd>
    </div>
  )
}

const opens = (removals: string[]) =>
  removals.length === 0 ? 'nothing' : removals.length < 3 ? removals.join(', ') : `${removals.length} parts`

function heldWords(held: Held): string {
  if (held.kind === 'part') return held.part.name
  if (held.kind === 'module') return String(held.module.size)
  return held.kind === 'present' ? `the module of ${held.slot}` : `the drive of ${held.bay}`
}
