import { NativeSelect, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { OrderView, SlotChange } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { may } from './acts'

type How = 'again' | 'part' | 'empty'

/** Changes what was fitted, in the same order: what a search has named stands in the form already. */
export function Mend({ order, now }: { order: OrderView; now: boolean }) {
  return may(order, 'mend-plan') ? (
    <details open={now}>
      <summary className={now ? '' : 'muted'}>Change what was fitted</summary>
      <MendForm order={order} now={now} />
    </details>
  ) : null
}

function MendForm({ order, now }: { order: OrderView; now: boolean }) {
  const named = order.swapResults.at(-1)?.conclusion?.suspects[0]
  const slots = order.positions.filter((p) => !p.slot.soldered).map((p) => p.slot.id)
  const [slot, setSlot] = useState(named?.modules[0] ?? named?.slots[0] ?? slots[0] ?? '')
  const [how, setHow] = useState<How>(named?.kind === 'slot' ? 'empty' : 'again')
  const [part, setPart] = useState('')
  const [reason, setReason] = useState(named ? 'the swap test named it' : '')
  const change = useTold(order.number)
  const fitted = order.positions.find((p) => p.slot.id === slot)?.planned?.use === 'fit'
  const way = how === 'again' && !fitted ? 'part' : how
  const wish: SlotChange = {
    slot,
    empty: way === 'empty',
    reseat: false,
    inspect: false,
    // The catalogue knows its size.
    fit: way === 'part' ? { size: 0, partNumber: part } : null,
  }
  return (
    <form
      className="stack"
      style={{ gap: 8 }}
      onSubmit={(e) => {
        e.preventDefault()
        change.send({
          path: 'mend',
          body: way === 'again' ? { again: [slot], reason } : { changes: [wish], reason },
        })
      }}
    >
      <div className="row">
        <NativeSelect label="Slot" data={slots} value={slot} onChange={(e) => setSlot(e.target.value)} />
        <NativeSelect
          label="What becomes of it"
          data={[
            ...(fitted ? [{ value: 'again', label: 'another of its kind' }] : []),
            { value: 'part', label: 'another part' },
            { value: 'empty', label: 'left empty' },
          ]}
          value={way}
          onChange={(e) => setHow(e.target.value as How)}
        />
        {way === 'part' && (
          <TextInput label="Part number" value={part} onChange={(e) => setPart(e.target.value)} />
        )}
      </div>
      <TextInput label="Why" value={reason} onChange={(e) => setReason(e.target.value)} />
      <p className="muted small">
        {way === 'again'
          ? 'Another run begins at this slot. The customer agreed to a part of this kind already.'
          : 'The customer is asked again; then another run begins at this slot.'}
      </p>
      <Trouble error={change.error} />
      <div>
        <button
          className={now ? 'button now' : 'button'}
          disabled={!reason.trim() || (way === 'part' && !part.trim()) || change.isPending}
        >
          Change it
        </button>
      </div>
    </form>
  )
}
