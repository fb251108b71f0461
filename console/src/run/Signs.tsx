import type { OrderView, StepView } from '../api/client'
import { useTold } from '../api/queries'
import { may } from '../order/acts'
import { Trouble } from '../parts/Trouble'
import { spoken } from '../words'
import { LeftClock } from './Countdown'

/** What this model may show at a start: pressed when it does. */
export function Signs(props: {
  signs: StepView['step']['signs']
  told: (string | null)[]
  onTell: (sees: string) => void
  onNormal: () => void
}) {
  return (
    <fieldset className="choice">
      <legend className="muted small">Press what it shows; tell anything else under Found</legend>
      <div className="signs">
        {props.signs.map((s) => (
          <button
            key={s.sees}
            className="button sign"
            aria-pressed={props.told.includes(s.sees)}
            onClick={() => props.onTell(s.sees)}
          >
            <span>{s.sees}</span>
            <span className={s.isNormal ? 'verdict as-planned' : 'verdict short'}>
              {s.isNormal ? '✓ normal' : `✕ ${spoken(s.means)}`}
            </span>
            {s.do && <span className="muted small">{s.do}</span>}
          </button>
        ))}
        {props.told.length > 0 && (
          <button className="button sign" onClick={props.onNormal}>
            started again: as it should
          </button>
        )}
      </div>
    </fieldset>
  )
}

type Sign = NonNullable<OrderView['run']>['signs'][number]

/** What a pressed sign means here: how long it may go on, what to do, and the step that follows. */
export function SignAnswer({ order, sign }: { order: OrderView; sign: Sign }) {
  const reseat = useTold(order.number)
  return (
    <div className="sign-answer" role="status">
      <p>
        <span className={sign.isNormal ? 'verdict as-planned' : 'verdict short'}>
          {sign.isNormal ? '✓' : '✕'} {sign.meaning}
        </span>
        {sign.do && ` · ${sign.do}`}
      </p>
      {sign.until && (
        <LeftClock until={Date.parse(sign.until)} over="It has gone on for as long as it may." />
      )}
      {sign.follow && <p>{sign.follow}</p>}
      {sign.reseat.length > 0 && may(order, 'begin-reseat') && (
        <button
          className="button now"
          disabled={reseat.isPending}
          onClick={() =>
            reseat.send({ path: 'reseat', body: { slots: sign.reseat, reason: `it showed: ${sign.sees}` } })
          }
        >
          Begin the reseat of {sign.reseat.join(', ')}
        </button>
      )}
      <Trouble error={reseat.error} />
    </div>
  )
}
