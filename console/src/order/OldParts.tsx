import { NativeSelect, TextInput } from '@mantine/core'
import { useState } from 'react'
import { api, type BagLabel, type LeavingView, type OrderView } from '../api/client'
import { useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { may } from './acts'

type Fate = LeavingView['choices'][number]['fate']

/** What becomes of the parts that come out. A drive is cleared before it goes anywhere but home. */
export function OldParts({ order }: { order: OrderView }) {
  if (order.comesOut.length === 0) return null
  const open = may(order, 'settle-old-part')
  return (
    <div className="stack" style={{ gap: 8 }}>
      <h3>What comes out</h3>
      {order.comesOut.map((part) => (
        <div key={part.position} className="stack" style={{ gap: 6 }}>
          {!part.bag ? (
            <p className="muted">
              <b className="mono">{part.position}</b> {part.name}: still inside
            </p>
          ) : part.settled || !open ? (
            <p>
              <b className="mono">{part.position}</b> {part.name}:{' '}
              {part.words ?? 'nobody said what becomes of it'}
            </p>
          ) : (
            <Settle order={order} part={part} />
          )}
          {part.bag && <Bag order={order} bag={part.bag} />}
        </div>
      ))}
      {order.comesOut.some((part) => part.bag) && (
        <p className="small">
          <a href={`/api/v1/orders/${order.number}/bags.pdf`} target="_blank" rel="noreferrer">
            Labels for the bags
          </a>
        </p>
      )}
    </div>
  )
}

/** The bag of one part: its code, and where it lies. */
function Bag({ order, bag }: { order: OrderView; bag: BagLabel }) {
  const [place, setPlace] = useState<string | null>(null)
  const change = useChange(async (place: string, header) =>
    api.POST('/api/v1/orders/{number}/old-parts/{position}/bag', {
      params: { path: { number: order.number, position: bag.position }, header },
      body: { place },
    }),
  )
  return (
    <div className="row small">
      <span>
        bag <b className="mono">{bag.code}</b>
        {bag.mark && <span className="muted">, {bag.mark}</span>}
        {bag.place ? `: ${bag.place}` : <span className="muted">: nobody said where it lies</span>}
      </span>
      {may(order, 'bag-old-part') &&
        (place === null ? (
          <button className="button" onClick={() => setPlace(bag.place ?? '')}>
            {bag.place ? 'It lies elsewhere' : 'Say where it lies'}
          </button>
        ) : (
          <form
            className="row"
            onSubmit={(e) => {
              e.preventDefault()
              if (place.trim()) change.send(place, () => setPlace(null))
            }}
          >
            <TextInput
              aria-label={`Where bag ${bag.code} lies`}
              placeholder="shelf 3"
              value={place}
              onChange={(e) => setPlace(e.target.value)}
              autoFocus
            />
            <button className="button" disabled={change.isPending || !place.trim()}>
              It lies there
            </button>
          </form>
        ))}
      <Trouble error={change.error} />
    </div>
  )
}

function Settle({ order, part }: { order: OrderView; part: LeavingView }) {
  const { position, name } = part
  const [fate, setFate] = useState<Fate | ''>('')
  const [f, setF] = useState<Record<string, string>>({})
  const choice = part.choices.find((c) => c.fate === fate)
  const wipes = choice?.wantsWipe ?? false
  const change = useChange(async (fate: Fate, header) =>
    api.POST('/api/v1/orders/{number}/old-parts/{position}', {
      params: { path: { number: order.number, position }, header },
      body: {
        fate,
        wipe: wipes
          ? {
              category: (f.category ?? 'clear') as 'clear' | 'purge' | 'destroy',
              method: f.method ?? '',
              verified: f.verified ?? '',
            }
          : null,
        grade: fate === 'bought-in' ? (f.grade ?? 'A') : null,
        tested: fate === 'bought-in' ? (f.tested ?? null) : null,
        price: fate === 'bought-in' ? Number(f.price) || 0 : null,
        claim: choice?.wantsClaim
          ? {
              number: f.claim ?? '',
              on: f.claimedOn ?? new Date().toLocaleDateString('sv'),
              reason: f.claimReason ?? '',
            }
          : null,
        usedIn: choice?.wantsOrder ? Number(f.usedIn) || null : null,
      },
    }),
  )
  const text = (key: string, label: string) => (
    <TextInput
      aria-label={`${label}, ${position}`}
      placeholder={label}
      value={f[key] ?? ''}
      onChange={(e) => setF({ ...f, [key]: e.target.value })}
    />
  )
  return (
    <div className="stack" style={{ gap: 6 }}>
      <div className="row">
        <span>
          <b className="mono">{position}</b> {name}
        </span>
        <NativeSelect
          aria-label={`What becomes of what came out of ${position}`}
          value={fate}
          onChange={(e) => setFate(e.target.value as Fate)}
          data={[
            { value: '', label: 'not decided…' },
            ...part.choices.map((c) => ({ value: c.fate, label: c.words })),
          ]}
        />
        {wipes && (
          <>
            <NativeSelect
              aria-label={`How thoroughly, ${position}`}
              value={f.category ?? 'clear'}
              onChange={(e) => setF({ ...f, category: e.target.value })}
              data={['clear', 'purge', 'destroy']}
            />
            {text('method', 'wiped how')}
            {text('verified', 'verified how')}
          </>
        )}
        {choice?.wantsClaim && (
          <>
            {text('claim', 'number of the claim')}
            {text('claimReason', 'what is claimed')}
          </>
        )}
        {choice?.wantsOrder && text('usedIn', 'the other order')}
        {fate === 'bought-in' && (
          <>
            <NativeSelect
              aria-label={`Grade, ${position}`}
              value={f.grade ?? 'A'}
              onChange={(e) => setF({ ...f, grade: e.target.value })}
              data={['A', 'B', 'C']}
            />
            {text('tested', 'tested how')}
            {text('price', 'paid')}
          </>
        )}
        {fate && (
          <button className="button" disabled={change.isPending} onClick={() => change.send(fate)}>
            Record it
          </button>
        )}
      </div>
      <Trouble error={change.error} />
    </div>
  )
}
