import { TextInput } from '@mantine/core'
import { useState } from 'react'
import type { OrderView, StartShown } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { Name } from '../people/Name'

type Swap = NonNullable<OrderView['swap']>

/** The guided search for what is at fault: the suspects, the arrangement to try, and what it showed. */
export function SwapTest({ order }: { order: OrderView }) {
  const { swap } = order
  return (
    <>
      {order.swapResults.map((r) => (
        <p key={r.sequence}>
          <span className="verdict note">swap test</span>{' '}
          {r.conclusion ? `${r.conclusion.sentence} ${r.conclusion.do}` : `Given up: ${r.note ?? ''}`}{' '}
          <span className="muted small">
            {r.restarts} {r.restarts === 1 ? 'restart' : 'restarts'}, by <Name id={r.by} />
          </span>
        </p>
      ))}
      {swap && <Running key={swap.trials.length} order={order} swap={swap} />}
    </>
  )
}

function Running({ order, swap }: { order: OrderView; swap: Swap }) {
  const { state } = swap
  const change = useTold(order.number)
  const [tally, setTally] = useState(noTally)
  return (
    <section className="swap stack" aria-label="Swap test">
      <h3>
        Swap test{' '}
        <span className="muted small">
          {swap.trials.length} tried
          {!state.conclusion && `, about ${Math.max(1, Math.round(state.restarts))} to go`}
        </span>
      </h3>
      <ul className="suspects" aria-label="Suspects">
        {state.suspects.slice(0, 6).map((s) => (
          <li key={s.spoken}>
            <span>{s.spoken}</span>
            <div className="bar planned" style={{ width: `${Math.max(1, s.chance * 100)}%` }} />
            <span className="mono">{Math.round(s.chance * 100)} %</span>
          </li>
        ))}
      </ul>
      {state.conclusion ? (
        <>
          <p>
            <b>{state.conclusion.sentence}</b> {state.conclusion.do}
          </p>
          {state.words.length > 0 && (
            <ol className="moves">
              {state.words.map((w) => (
                <li key={w}>{w}</li>
              ))}
            </ol>
          )}
          <Tally order={order} out={state.counts} value={tally} onChange={setTally} />
          <Trouble error={change.error} />
          <div>
            <button
              className="button now"
              disabled={change.isPending || !isCounted(state.counts, tally)}
              onClick={() => change.send({ path: 'swap-test/end', body: told(tally) })}
            >
              End the swap test
            </button>
          </div>
        </>
      ) : (
        <Try order={order} swap={swap} />
      )}
    </section>
  )
}

function Try({ order, swap }: { order: OrderView; swap: Swap }) {
  const places = swap.state.next ?? []
  const [hands, setHands] = useState(false)
  const isolated = hands || !swap.state.handsIn
  const [seen, setSeen] = useState<string[]>(places.map((p) => p.slot))
  const [why, setWhy] = useState('')
  const change = useTold(order.number)
  const [tally, setTally] = useState(noTally)
  const [tallyAtEnd, setTallyAtEnd] = useState(noTally)
  const ready = isolated && isCounted(swap.state.counts, tally) && !change.isPending
  const tell = (shown: StartShown) =>
    change.send({ path: 'swap-test/tries', body: { isolated: hands, shown, ...told(tally) } })
  return (
    <>
      <Arrangement places={places} slots={swap.setup.slots} />
      <ol className="moves">
        {swap.state.words.map((w) => (
          <li key={w}>{w}</li>
        ))}
      </ol>
      {swap.state.handsIn && (
        <label className="tick">
          <input type="checkbox" checked={hands} onChange={(e) => setHands(e.target.checked)} />
          Power was off the board before hands went in
        </label>
      )}
      <Tally order={order} out={swap.state.counts} value={tally} onChange={setTally} />
      <fieldset className="choice">
        <legend className="muted small">What it showed: tap the slots that were seen</legend>
        <div className="row">
          {places.map((p) => (
            <button
              key={p.slot}
              className="button"
              aria-pressed={seen.includes(p.slot)}
              onClick={() =>
                setSeen(seen.includes(p.slot) ? seen.filter((s) => s !== p.slot) : [...seen, p.slot])
              }
            >
              {p.slot} {seen.includes(p.slot) ? 'seen' : 'not seen'}
            </button>
          ))}
        </div>
      </fieldset>
      <Trouble error={change.error} />
      <div className="row">
        <button
          className="button now"
          disabled={!ready || seen.length === 0}
          onClick={() => tell({ started: true, slots: seen })}
        >
          {seen.length === places.length
            ? 'All were seen'
            : seen.length > 0
              ? `Only ${seen.join(', ')} seen`
              : 'None seen'}
        </button>
        <NoStart
          words="It did not start"
          disabled={!ready}
          onTell={(sign) => tell({ started: false, sign })}
        />
      </div>
      <details>
        <summary className="small muted">Give it up</summary>
        <div className="row">
          <TextInput
            aria-label="Why it is given up"
            placeholder="why"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
          />
          <Tally order={order} out={swap.open} value={tallyAtEnd} onChange={setTallyAtEnd} />
          <button
            className="button"
            disabled={!why.trim() || !isCounted(swap.open, tallyAtEnd) || change.isPending}
            onClick={() => change.send({ path: 'swap-test/end', body: { reason: why, ...told(tallyAtEnd) } })}
          >
            Give the swap test up
          </button>
        </div>
      </details>
    </>
  )
}

type Counted = { back: Record<string, string>; why: string }
const noTally: Counted = { back: {}, why: '' }

const isCounted = (out: Record<string, number>, { back }: Counted) =>
  Object.keys(out).every((removal) => /^\d+$/.test(back[removal] ?? ''))

const told = ({ back, why }: Counted) =>
  Object.keys(back).length === 0
    ? {}
    : {
        back: Object.fromEntries(Object.entries(back).map(([removal, n]) => [removal, Number(n)])),
        explanation: why.trim() || null,
      }

/** What came out goes back before power: counted, not assumed. */
function Tally(props: {
  order: OrderView
  out: Record<string, number>
  value: Counted
  onChange: (value: Counted) => void
}) {
  const { back, why } = props.value
  const removals = Object.entries(props.out)
  const short = removals.some(([removal, n]) => back[removal] && Number(back[removal]) !== n)
  if (removals.length === 0) return null
  return (
    <fieldset className="choice">
      <legend className="muted small">Fasteners that went back</legend>
      <div className="row">
        {removals.map(([removal, n]) => (
          <TextInput
            key={removal}
            label={`${titleOf(props.order, removal)}, ${n} out`}
            inputMode="numeric"
            style={{ width: 220 }}
            value={back[removal] ?? ''}
            onChange={(e) => props.onChange({ back: { ...back, [removal]: e.target.value }, why })}
          />
        ))}
        {short && (
          <TextInput
            label="Where the missing one is"
            value={why}
            onChange={(e) => props.onChange({ back, why: e.target.value })}
          />
        )}
      </div>
    </fieldset>
  )
}

const titleOf = (order: OrderView, removal: string) =>
  order.run?.steps.find((s) => s.step.removal === removal)?.step.removalTitle ?? removal.replaceAll('-', ' ')

/** Which module sits where; the hatched one is planned, as everywhere. */
function Arrangement({ places, slots }: { places: { slot: string; module: string }[]; slots: string[] }) {
  return (
    <div
      className="arrangement"
      role="img"
      aria-label={places.map((p) => `${p.slot} takes the module of ${p.module}`).join(', ')}
    >
      {slots.map((slot) => {
        const place = places.find((p) => p.slot === slot)
        return (
          <div key={slot}>
            <span className="muted small">{slot}</span>
            <div className={place ? 'chip' : 'chip none'}>
              <span>{place ? (place.module === slot ? 'its own' : `of ${place.module}`) : 'empty'}</span>
            </div>
          </div>
        )
      })}
    </div>
  )
}

/** Begins it for what the check found, or for a machine that does not start. */
export function BeginSwapTest({ order, now }: { order: OrderView; now: boolean }) {
  const change = useTold(order.number)
  return (
    <div className="stack" style={{ gap: 8 }}>
      <Trouble error={change.error} />
      <div className="row">
        <button
          className={now ? 'button now' : 'button'}
          disabled={change.isPending}
          onClick={() => change.send({ path: 'swap-test', body: {} })}
        >
          Begin the swap test
        </button>
        <NoStart
          words="It does not start"
          disabled={change.isPending}
          onTell={(sign) => change.send({ path: 'swap-test', body: { shown: { started: false, sign } } })}
        />
      </div>
    </div>
  )
}

/** It shows no picture: what it beeps or blinks instead goes with it. */
function NoStart(props: { words: string; disabled: boolean; onTell: (sign: string | null) => void }) {
  const [sign, setSign] = useState('')
  return (
    <>
      <button className="button" disabled={props.disabled} onClick={() => props.onTell(sign || null)}>
        {props.words}
      </button>
      <TextInput
        aria-label="Beeps or lights"
        placeholder="beeps or lights"
        value={sign}
        onChange={(e) => setSign(e.target.value)}
      />
    </>
  )
}
