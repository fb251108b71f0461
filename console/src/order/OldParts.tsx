import { NativeSelect, TextInput } from '@mantine/core'
import { useState } from 'react'
import { api, type LeavingView, type OrderView } from '../api/client'
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
      {order.comesOut.map((part) =>
        part.settled ? (
          <p key={part.position}>
            <b className="mono">{part.position}</b> {part.name}: {part.words}
          </p>
        ) : open && part.isOut ? (
          <Settle key={part.position} order={order} part={part} />
        ) : (
          <p key={part.position} className="muted">
            <b className="mono">{part.position}</b> {part.name}: still inside
          </p>
        ),
      )}
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
