import { TextInput } from '@mantine/core'
import { useState } from 'react'
import type { Hold, OrderView } from '../api/client'
import { useMe } from '../api/me'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { Due } from '../parts/Due'
import { may } from './acts'
import { Name } from '../people/Name'

/** What stands between the order and its hand-back, each with what ends it; what a lead released, folded. */
export function Holds({ order }: { order: OrderView }) {
  const open = order.holds.filter((h) => h.released === null)
  const released = order.holds.filter((h) => h.released !== null)
  if (order.holds.length === 0) return null
  return (
    <section className="stack holds" aria-label="Holds">
      {open.map((h) => (
        <OpenHold key={h.key} order={order} hold={h} />
      ))}
      {released.length > 0 && (
        <details>
          <summary className="muted small">
            {released.length} released: {released.map((h) => h.word).join(', ')}
          </summary>
          {released.map((h) => (
            <p key={h.key} className="small">
              {h.sentence}{' '}
              <span className="muted">
                Released by <Name id={h.released!.by} />:
              </span>{' '}
              {h.released!.reason}
            </p>
          ))}
        </details>
      )}
    </section>
  )
}

function OpenHold({ order, hold }: { order: OrderView; hold: Hold }) {
  return (
    <div className="hold">
      <b>{hold.word}</b>
      <div>
        <p>
          {hold.sentence} {hold.until && <Due at={hold.until} />}
        </p>
        <p className="small">{hold.ends}</p>
      </div>
      <Ways order={order} hold={hold} />
    </div>
  )
}

// Time ends it: the order may rest until then. A lead lets it be, with a reason.
function Ways({ order, hold }: { order: OrderView; hold: Hold }) {
  const [asks, setAsks] = useState(false)
  const [reason, setReason] = useState('')
  const isLead = useMe()?.role === 'lead'
  const change = useTold(order.number)
  const releases = isLead && may(order, 'release-hold') && !['fate-open', 'watched'].includes(hold.kind)
  const rests = hold.kind === 'array' && hold.until !== null && may(order, 'park')
  return (
    <div className="hold-ways">
      {rests && (
        <button
          className="button"
          disabled={change.isPending}
          onClick={() => change.send({ path: 'park', body: { reason: hold.sentence, until: hold.until } })}
        >
          Park it until then
        </button>
      )}
      {releases &&
        (asks ? (
          <form
            className="row"
            onSubmit={(e) => {
              e.preventDefault()
              change.send({ path: 'release', body: { hold: hold.key, reason } })
            }}
          >
            <TextInput
              aria-label={`Why ${hold.word} is let be`}
              placeholder="why it is let be"
              value={reason}
              onChange={(e) => setReason(e.target.value)}
            />
            <button className="button" disabled={!reason.trim() || change.isPending}>
              Release it
            </button>
          </form>
        ) : (
          <button className="button" onClick={() => setAsks(true)}>
            Release…
          </button>
        ))}
      <Trouble error={change.error} />
    </div>
  )
}
