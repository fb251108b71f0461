import { useMutation } from '@tanstack/react-query'
import type { OrderView } from '../api/client'
import { bestLayout } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { size } from '../words'
import type { Planning } from './usePlanning'
import type { Wishes } from './wishes'

/** The same modules where they sit best, with the reason and the next best. */
export function SeatBest({ order, planning }: { order: OrderView; planning: Planning }) {
  const { wishes } = planning
  const fitted = Object.values(wishes).flatMap((w) => (w.what === 'fit' ? [w.module] : []))
  const kept = order.positions.flatMap((p) =>
    p.before?.module && !p.slot.soldered && !leaves(p.slot.id, wishes) ? [p.slot.id] : [],
  )
  const arrange = useMutation({
    mutationFn: () => bestLayout(order, kept, fitted),
    onSuccess: (layout) => planning.takeMemory(layout.changes),
  })
  const answer = arrange.data?.answer
  return (
    <>
      <div className="row arrange">
        <button
          className="button"
          disabled={fitted.length === 0 || arrange.isPending}
          onClick={() => arrange.mutate()}
        >
          Seat them best
        </button>
        {answer && (
          <span className="small" role="status">
            {answer.because}{' '}
            {answer.runnerUp && (
              <span className="muted">
                Next best: {answer.runnerUp.seats.map((s) => `${s.slot} ${size(s.module.size)}`).join(', ')}
              </span>
            )}
          </span>
        )}
      </div>
      <Trouble error={arrange.error} />
    </>
  )
}

/** Whether the module of this slot leaves the machine. */
const leaves = (slot: string, wishes: Wishes) =>
  wishes[slot]?.what === 'empty' ||
  ((wishes[slot]?.what === 'fit' || wishes[slot]?.what === 'from') &&
    !Object.values(wishes).some((w) => w.what === 'from' && w.from === slot))
