import type { CheckResult, FitNote, PlanView } from '../api/client'
import { size } from '../words'

/** What follows from a plan, before anything is opened; and what was measured, once it was. */
export function Expected({ plan, check }: { plan: PlanView; check?: CheckResult | null }) {
  const e = plan.expectation
  const seen = (bytes: number | null | undefined) =>
    check && (
      <>
        {', '}
        <b>{bytes === null || bytes === undefined ? 'not measured' : `${size(bytes)} measured`}</b>
      </>
    )
  return (
    <div className="stack" style={{ gap: 8 }}>
      <dl className="facts">
        <dt>installed</dt>
        <dd>
          <span className="mono">{size(e.installed)}</span> expected{seen(check?.installed.after)}
        </dd>
        <dt>usable</dt>
        <dd>
          {e.usableLow === null ? (
            'unknown'
          ) : (
            <>
              <span className="mono">
                {size(e.usableLow)} to {size(e.usableHigh)}
              </span>{' '}
              expected{seen(check?.usable.after)}
            </>
          )}
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
