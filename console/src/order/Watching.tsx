import { NativeSelect, NumberInput, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { OrderChange, OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { may } from './acts'
import { Name } from '../people/Name'

const signs = { none: 'nothing', restart: 'it restarted', freeze: 'it froze', other: 'something else' }
type Sign = keyof typeof signs
const outcomes = { gone: 'the fault is gone', 'came-back': 'it came back', unclear: 'unclear' }
type Outcome = keyof typeof outcomes

/** Whether the fault came back: the days that somebody asked, and what was seen. */
export function Watching({ order }: { order: OrderView }) {
  const { watch } = order
  return (
    <>
      {watch && (
        <>
          <p>
            {watch.for}; watched until <b className="mono">{watch.until.slice(0, 10)}</b>
            {watch.outcome ? (
              <>
                : <b>{outcomes[watch.outcome]}</b> {watch.text}
              </>
            ) : (
              <>
                . Ask again on <b className="mono">{watch.dueOn}</b>.
              </>
            )}
          </p>
          <ul className="watch-days">
            {watch.notes.map((n) => (
              <li key={`${n.on} ${n.at}`}>
                <span className="mono">{n.on}</span>
                <span className={n.sign === 'none' ? undefined : 'off'}>{n.spoken}</span>
                <span className="muted">
                  {n.text} <Name id={n.by} />
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {may(order, 'note-watch') && <Observe order={order} />}
      {order.run && !watch && may(order, 'add-find') && <Noticed order={order} />}
      {may(order, 'begin-watch') && <Begin order={order} />}
    </>
  )
}

const afterwards = {
  'loud-fan': 'its fan is loud',
  heat: 'it is hot',
  noise: 'it makes a noise',
  freeze: 'it froze',
  other: 'something else',
}
type Afterwards = keyof typeof afterwards

/** What is noticed once it runs again; it may begin a watch. */
function Noticed({ order }: { order: OrderView }) {
  const [kind, setKind] = useState<Afterwards>('loud-fan')
  const [text, setText] = useState('')
  const change = useTold(order.number)
  const find = (then?: () => void) =>
    change.send({ path: 'finds', body: { kind, text: text.trim() || null, step: null } }, () => {
      setText('')
      then?.()
    })
  const words = [afterwards[kind], text.trim()].filter(Boolean).join(': ')
  return (
    <details>
      <summary className="muted">Something else was noticed afterwards</summary>
      <div className="row watch-form">
        <NativeSelect
          label="What"
          value={kind}
          onChange={(e) => setKind(e.target.value as Afterwards)}
          data={Object.entries(afterwards).map(([value, label]) => ({ value, label }))}
        />
        <TextInput label="In words" value={text} onChange={(e) => setText(e.target.value)} />
        <button
          className="button"
          disabled={change.isPending || (kind === 'other' && !text.trim())}
          onClick={() => find()}
        >
          Record it
        </button>
        {may(order, 'begin-watch') && (
          <button
            className="button"
            disabled={change.isPending || (kind === 'other' && !text.trim())}
            onClick={() =>
              find(() => change.send({ path: 'watch', body: { days: 14, everyDays: 3, for: words } }))
            }
          >
            Record it, and watch for it
          </button>
        )}
      </div>
      <Trouble error={change.error} />
    </details>
  )
}

function Begin({ order }: { order: OrderView }) {
  const [days, setDays] = useState<number | string>(14)
  const [every, setEvery] = useState<number | string>(3)
  const change = useTold(order.number)
  return (
    <details>
      <summary className="muted">Watch whether the fault comes back</summary>
      <div className="row watch-form">
        <NumberInput label="for so many days" min={1} max={365} value={days} onChange={setDays} />
        <NumberInput label="asking every" min={1} max={365} value={every} onChange={setEvery} />
        <button
          className="button"
          disabled={change.isPending}
          onClick={() =>
            change.send({ path: 'watch', body: { days: Number(days), everyDays: Number(every) } })
          }
        >
          Begin the watch
        </button>
      </div>
      <Trouble error={change.error} />
    </details>
  )
}

function Observe({ order }: { order: OrderView }) {
  const [sign, setSign] = useState<Sign>('none')
  const [text, setText] = useState('')
  const [on, setOn] = useState(() => new Date().toLocaleDateString('sv'))
  const [outcome, setOutcome] = useState<Outcome>('gone')
  const change = useTold(order.number)
  const send = (told: OrderChange) => change.send(told, () => setText(''))
  return (
    <div className="form">
      <div className="two">
        <TextInput label="On" type="date" value={on} onChange={(e) => setOn(e.target.value)} />
        <NativeSelect
          label="What was seen"
          value={sign}
          onChange={(e) => setSign(e.target.value as Sign)}
          data={Object.entries(signs).map(([value, label]) => ({ value, label }))}
        />
      </div>
      <TextInput label="In words" value={text} onChange={(e) => setText(e.target.value)} />
      <Trouble error={change.error} />
      <div className="row">
        <button
          className="button now"
          disabled={change.isPending}
          onClick={() => send({ path: 'watch/notes', body: { sign, on, text: text || null } })}
        >
          Note it
        </button>
        <NativeSelect
          aria-label="Outcome"
          value={outcome}
          onChange={(e) => setOutcome(e.target.value as Outcome)}
          data={Object.entries(outcomes).map(([value, label]) => ({ value, label }))}
        />
        <button
          className="button"
          disabled={change.isPending}
          onClick={() => send({ path: 'watch/end', body: { outcome, text: text || null } })}
        >
          End the watch
        </button>
      </div>
    </div>
  )
}
