import { useState } from 'react'
import { Field } from './Field'
import { Name } from '../people/Name'
import type { Say } from '../away/queue'

type Props = { stop: { spoken: string; by: string | null; text: string | null }; say: Say }

/** All work stands still until a lead decides. */
export function Stopped({ stop, say }: Props) {
  const [reason, setReason] = useState('')
  return (
    <section className="stopped" role="alert">
      <h2>Stop: {stop.spoken}</h2>
      <p>
        Found by {stop.by && <Name id={stop.by} />}
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
