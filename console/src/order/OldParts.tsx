import { NativeSelect, TextInput } from '@mantine/core'
import { useState } from 'react'
import { api, type OrderView } from '../api/client'
import { useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'

const fates = {
  kept: 'the customer keeps it',
  returned: 'back to who sold it',
  wiped: 'wiped, then the customer keeps it',
  recycled: 'recycled',
  'bought-in': 'the shop buys it',
}
type Fate = keyof typeof fates

/** What becomes of the parts that come out. A drive is cleared before it goes anywhere but home. */
export function OldParts({ order }: { order: OrderView }) {
  const plan = order.plan?.plan
  if (!plan) return null
  const bays = plan.bays ?? []
  const taken = bays.map((b) => b.from)
  const out = [
    ...plan.slots
      .filter((s) => (s.use === 'fit' || s.use === 'empty' || s.use === 'move') && s.before.module)
      .filter((s) => !plan.slots.some((o) => o.from === s.slot))
      .map((s) => ({ position: s.slot, name: s.before.spoken ?? 'the module', isDrive: false })),
    ...bays
      .filter((b) => ['fit', 'empty', 'move'].includes(b.use) && !b.wasEmpty && !taken.includes(b.bay))
      .map((b) => ({ position: b.bay, name: b.before?.partNumber ?? 'the drive', isDrive: true })),
  ]
  if (out.length === 0) return null
  const open = order.stage !== 'handed-back' && order.stage !== 'cancelled'
  return (
    <div className="stack" style={{ gap: 8 }}>
      <h3>What comes out</h3>
      {out.map((p) => {
        const settled = order.settled.find((s) => s.position === p.position)
        return settled ? (
          <p key={p.position}>
            <b className="mono">{p.position}</b> {p.name}: {fates[settled.fate]}
            {settled.wipe && `; ${settled.wipe.category} by ${settled.wipe.method}, ${settled.wipe.verified}`}
            {settled.grade && `; grade ${settled.grade}, ${settled.tested}`}
          </p>
        ) : (
          open && <Settle key={p.position} order={order} {...p} />
        )
      })}
    </div>
  )
}

function Settle(props: { order: OrderView; position: string; name: string; isDrive: boolean }) {
  const { order, position, name, isDrive } = props
  const [fate, setFate] = useState<Fate | ''>('')
  const [f, setF] = useState<Record<string, string>>({})
  const wipes = isDrive && (fate === 'wiped' || fate === 'recycled' || fate === 'bought-in')
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
            ...Object.entries(fates).map(([value, label]) => ({ value, label })),
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
