import { NativeSelect, TextInput } from '@mantine/core'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useDebouncedValue } from '@mantine/hooks'
import { useState } from 'react'
import { api, type OrderView, type PlanView, type SlotChange } from '../api/client'
import { useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { size } from '../words'

const balances = {
  unknown: 'unknown',
  'single-channel': 'one channel only',
  uneven: 'uneven',
  equal: 'equal, all interleaved',
}

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
          {size(e.usableLow)} to {size(e.usableHigh)}
        </dd>
        <dt>speed</dt>
        <dd className="mono">{e.runningSpeed ? `${e.runningSpeed} MT/s` : 'unknown'}</dd>
        <dt>channels</dt>
        <dd>{balances[e.balance]}</dd>
      </dl>
      {plan.remarks.map((r) => (
        <p key={r} className="small">
          <span className="verdict remark">!</span> {r}
        </p>
      ))}
    </div>
  )
}

type Wish = { what: string; size: string; part: string; serial: string }
const stay: Wish = { what: 'keep', size: '', part: '', serial: '' }

/** One line a slot: stays, leaves, comes from another slot, or gets a new module. What follows is shown at once. */
export function PlanForm({ order, now }: { order: OrderView; now: boolean }) {
  const [wishes, setWishes] = useState<Record<string, Wish>>(() => wishesOf(order))
  const changes = changesOf(wishes)
  const [settled] = useDebouncedValue(changes, 120)
  const preview = useQuery({
    queryKey: ['preview', order.number, order.head, settled],
    queryFn: async () =>
      (
        await api.POST('/api/v1/orders/{number}/plan/preview', {
          params: { path: { number: order.number } },
          body: { changes: settled },
        })
      ).data!,
    enabled: settled.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  })
  const change = useChange(async (changes: SlotChange[], header) =>
    api.POST('/api/v1/orders/{number}/plan', {
      params: { path: { number: order.number }, header: { ...header, 'If-Match': `"${order.head}"` } },
      body: { changes },
    }),
  )
  const set = (slot: string, wish: Partial<Wish>) =>
    setWishes({ ...wishes, [slot]: { ...(wishes[slot] ?? stay), ...wish } })
  return (
    <div className="form" style={{ maxWidth: 'none' }}>
      {order.positions.map((p) => {
        const wish = wishes[p.slot.id] ?? stay
        return (
          <div key={p.slot.id} className="plan-slot">
            <b className="mono">{p.slot.id}</b>
            <span className="muted">{p.before?.spoken ?? 'unknown'}</span>
            <NativeSelect
              aria-label={`What ${p.slot.id} gets`}
              value={wish.what}
              onChange={(e) => set(p.slot.id, { what: e.target.value })}
              data={[
                { value: 'keep', label: p.slot.soldered ? 'soldered' : 'stays as it is' },
                ...(p.slot.soldered ? [] : [{ value: 'fit', label: 'gets a new module' }]),
                ...(p.slot.soldered ? [] : order.positions)
                  .filter((o) => o.slot.id !== p.slot.id && o.before?.module)
                  .map((o) => ({ value: `from:${o.slot.id}`, label: `gets the module of ${o.slot.id}` })),
                ...(p.before?.module && !p.slot.soldered
                  ? [
                      { value: 'empty', label: 'is emptied' },
                      { value: 'reseat', label: 'is seated anew' },
                    ]
                  : []),
                { value: 'inspect', label: 'is looked at' },
              ]}
            />
            {wish.what === 'fit' && (
              <div className="plan-module">
                <TextInput
                  aria-label={`Size for ${p.slot.id}`}
                  placeholder="16 GB"
                  value={wish.size}
                  onChange={(e) => set(p.slot.id, { size: e.target.value })}
                />
                <TextInput
                  aria-label={`Part for ${p.slot.id}`}
                  placeholder="part number"
                  value={wish.part}
                  onChange={(e) => set(p.slot.id, { part: e.target.value })}
                />
                <TextInput
                  aria-label={`Serial for ${p.slot.id}`}
                  placeholder="serial"
                  value={wish.serial}
                  onChange={(e) => set(p.slot.id, { serial: e.target.value })}
                />
              </div>
            )}
          </div>
        )
      })}
      {order.bays.map((b) => (
        <div key={b.id} className="plan-slot">
          <b className="mono">{b.id}</b>
          <span className="muted">{b.form}</span>
          <NativeSelect
            aria-label={`What happens to ${b.id}`}
            value={(wishes[b.id] ?? stay).what}
            onChange={(e) => set(b.id, { what: e.target.value })}
            data={[
              { value: 'keep', label: 'stays as it is' },
              { value: 'reseat', label: 'is seated anew' },
              { value: 'inspect', label: 'is looked at' },
            ]}
          />
        </div>
      ))}
      {changes.length > 0 &&
        (preview.error ? (
          <Trouble error={preview.error} />
        ) : (
          preview.data && <Expected plan={preview.data} />
        ))}
      <Trouble error={change.error} />
      <div>
        <button
          className={now ? 'button now' : 'button'}
          disabled={changes.length === 0 || change.isPending}
          onClick={() => change.send(changes)}
        >
          {order.plan ? 'Change the plan' : 'Set the plan'}
        </button>
      </div>
    </div>
  )
}

function wishesOf(order: OrderView): Record<string, Wish> {
  const wishes: Record<string, Wish> = {}
  for (const slot of order.plan?.plan.slots ?? []) {
    const m = slot.module
    if (slot.use === 'fit' && m)
      wishes[slot.slot] = {
        what: 'fit',
        size: size(m.size),
        part: m.partNumber ?? '',
        serial: m.serial ?? '',
      }
    if (slot.use === 'move') wishes[slot.slot] = { ...stay, what: `from:${slot.from}` }
    const leavesBare = slot.use === 'empty' && !order.plan?.plan.slots.some((s) => s.from === slot.slot)
    if (slot.use === 'reseat' || slot.use === 'inspect') wishes[slot.slot] = { ...stay, what: slot.use }
    if (leavesBare) wishes[slot.slot] = { ...stay, what: 'empty' }
  }
  for (const bay of order.plan?.plan.bays ?? []) wishes[bay.bay] = { ...stay, what: bay.use }
  return wishes
}

function changesOf(wishes: Record<string, Wish>): SlotChange[] {
  return Object.entries(wishes).flatMap(([slot, w]): SlotChange[] => {
    const none = { slot, empty: false, reseat: false, inspect: false }
    if (w.what === 'empty' || w.what === 'reseat' || w.what === 'inspect')
      return [{ ...none, [w.what]: true }]
    if (w.what.startsWith('from:')) return [{ ...none, from: w.what.slice(5) }]
    if (w.what === 'fit' && /\d\s*[a-z]/i.test(w.size))
      return [
        {
          ...none,
          fit: { size: w.size as unknown as number, partNumber: w.part || null, serial: w.serial || null },
        },
      ]
    return []
  })
}
