import { Link } from '@tanstack/react-router'
import { api, type OrderView } from '../api/client'
import { useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { counted } from '../words'
import { useCalled } from '../people/Name'

/** Where the run stands, and the way to it. */
export function RunSummary({ order, now }: { order: OrderView; now: boolean }) {
  const called = useCalled()
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
          Off:{' '}
          {open
            .map((l) => `${l.title}${l.out ? ` (${counted(l.out, 'fastener', 'fasteners')})` : ''}`)
            .join(', ')}
        </p>
      )}
      {tally.lines
        .filter((l) => l.explanation)
        .map((l) => (
          <p key={`${l.removal}/${l.group}`}>
            <span className="verdict remark">!</span> {l.title}: {l.out} out, {l.back ?? 'none'} back.{' '}
            {l.explanation}
          </p>
        ))}
      {run.stop && <p className="trouble">Stopped: {run.stop.spoken}. A lead decides on the run view.</p>}
      {run.remarks.map((r) => (
        <p key={`${r.at} ${r.text}`}>
          <span className="verdict remark">!</span> {r.text}
        </p>
      ))}
      {order.photos.length > 0 && (
        <div className="row photos">
          {order.photos.map((p) => (
            <a
              key={p.hash}
              href={`/api/v1/pictures/${p.hash}`}
              target="_blank"
              rel="noreferrer"
              title={p.caption ?? ''}
            >
              <img
                src={`/api/v1/pictures/${p.hash}?small=true`}
                alt={p.caption ?? `Photo by ${called(p.by)}`}
              />
            </a>
          ))}
        </div>
      )}
      <div>
        <Link
          to="/orders/$number/run"
          params={{ number: String(order.number) }}
          className={now ? 'button now' : 'button'}
        >
          {now ? (run.lastStep === null ? 'Begin the run' : 'Go on with the run') : 'See the run'}
        </Link>{' '}
        <a
          href={`/api/v1/orders/${order.number}/run.pdf`}
          target="_blank"
          rel="noreferrer"
          className="button"
        >
          On paper
        </a>
      </div>
    </>
  )
}

/** Begins another run for the positions that a finding names. */
export function ReseatButton({ order, slots, now }: { order: OrderView; slots: string[]; now: boolean }) {
  const change = useChange(async (slots: string[], header) =>
    api.POST('/api/v1/orders/{number}/reseat', {
      params: { path: { number: order.number }, header },
      body: { slots, reason: order.check?.sentence ?? null },
    }),
  )
  return (
    <div className="stack" style={{ gap: 8 }}>
      <Trouble error={change.error} />
      <div>
        <button
          className={now ? 'button now' : 'button'}
          disabled={change.isPending}
          onClick={() => change.send(slots)}
        >
          Reseat {slots.join(', ')}
        </button>
      </div>
    </div>
  )
}
