import { Link } from '@tanstack/react-router'
import { api, type OrderView } from '../api/client'
import { useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'

/** Where the run stands, and the way to it. */
export function RunSummary({ order, now }: { order: OrderView; now: boolean }) {
  const run = order.run
  if (!run) return null
  const { tally } = run
  const open = tally.lines.filter((l) => l.out !== null && l.back === null)
  return (
    <>
      {now && (
        <p>
          Next: <b>{order.next.text}</b>
        </p>
      )}
      {open.length > 0 && (
        <p className="muted">
          Off: {open.map((l) => `${l.removal}${l.out ? ` (${l.out} fasteners)` : ''}`).join(', ')}
        </p>
      )}
      {tally.lines
        .filter((l) => l.explanation)
        .map((l) => (
          <p key={l.removal}>
            <span className="verdict remark">!</span> {l.removal}: {l.out} out, {l.back ?? 'none'} back.{' '}
            {l.explanation}
          </p>
        ))}
      <div>
        <Link
          to="/orders/$number/run"
          params={{ number: String(order.number) }}
          className={now ? 'button now' : 'button'}
        >
          {now ? (order.stage === 'agreed' ? 'Begin the run' : 'Go on with the run') : 'See the run'}
        </Link>
      </div>
    </>
  )
}

/** Begins another run for the slots that the check names. */
export function ReseatButton({ order }: { order: OrderView }) {
  const slots = order.check?.findings.find((f) => f.action.kind === 'reseat')?.action.slots ?? []
  const change = useChange(async (slots: string[], header) =>
    api.POST('/api/v1/orders/{number}/reseat', {
      params: { path: { number: order.number }, header },
      body: { slots, reason: order.check?.sentence ?? null },
    }),
  )
  return (
    <div className="stack">
      <Trouble error={change.error} />
      <div>
        <button className="button now" disabled={change.isPending} onClick={() => change.send(slots)}>
          Reseat {slots.join(', ')}
        </button>
      </div>
    </div>
  )
}
