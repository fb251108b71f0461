import type { FitNote, PlanView } from '../api/client'
import { size } from '../words'

/** What follows from a plan, before anything is opened. */
export function Expected({ plan }: { plan: PlanView }) {
  const e = plan.expectation
  return (
    <div className="stack" style={{ gap: 8 }}>
      <dl className="facts">
        <dt>installed</dt>
        <dd>
          <b className="mono">{size(e.installed)}</b>
        </dd>
        <dt>usable</dt>
        <dd className="mono">
          {e.usableLow === null ? 'unknown' : `${size(e.usableLow)} to ${size(e.usableHigh)}`}
        </dd>
        <dt>speed</dt>
        <dd className="mono">{e.runningSpeed ? `${e.runningSpeed} MT/s` : 'unknown'}</dd>
        <dt>channels</dt>
        <dd>{e.channels}</dd>
        {plan.later && (
          <>
            <dt>later</dt>
            <dd>{plan.later.words}</dd>
          </>
        )}
      </dl>
      <Notes notes={plan.notes} />
    </div>
  )
}

const marks: Record<FitNote['weight'], string> = { remark: '!', lead: '! a lead decides:', refusal: '✕' }

/** What fits but should be known, heaviest first; both values and their source on hover. */
export function Notes({ notes }: { notes: FitNote[] }) {
  return notes.map((n) => (
    <p
      key={`${n.code} ${n.position}`}
      className="small"
      title={n.takes === n.has ? n.source : `${n.takes} against ${n.has}, ${n.source}`}
    >
      <span className={`verdict ${n.weight === 'remark' ? 'remark' : 'short'}`}>{marks[n.weight]}</span>{' '}
      {n.sentence}
    </p>
  ))
}
