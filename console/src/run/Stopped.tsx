import { useState } from 'react'
import type { OrderView } from '../api/client'
import { Field } from './Field'
import type { Say } from './queue'

/** All work stands still until a lead decides. */
export function Stopped({ order, say }: { order: OrderView; say: Say }) {
  const [reason, setReason] = useState('')
  const stop = order.run!.stop!
  return (
    <section className="stopped" role="alert">
      <h2>Stop: {stop.spoken}</h2>
      <p>
        Found by {stop.by}
        {stop.text && `: ${stop.text}`}. Do not press it, do not charge it, do not close the case on it.
      </p>
      <div className="row">
        <Field label="How to go on, by a lead" value={reason} onChange={setReason} />
        <button
          className="button"
          disabled={!reason.trim()}
          onClick={() =>
            say({
              path: 'waivers',
              body: { gate: 'run-stopped', step: null, reason },
              step: 'run',
              title: 'Going on after the stop:',
              confirms: false,
            })
          }
        >
          Go on
        </button>
      </div>
    </section>
  )
}
