import { Textarea, TextInput } from '@mantine/core'
import { useState } from 'react'
import { api, type OrderView } from '../api/client'
import { useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { may } from './acts'

/** Accepts the check; where it is not as planned, a lead gives the reason. */
export function ReadyForm({ order }: { order: OrderView }) {
  const fine = order.next.kind === 'mark-ready'
  const [reason, setReason] = useState('')
  const change = useChange(async (reason: string, header) =>
    api.POST('/api/v1/orders/{number}/ready', {
      params: { path: { number: order.number }, header },
      body: { reason: reason || null },
    }),
  )
  return (
    <form className="form" onSubmit={submit(() => change.send(reason))}>
      {!fine && (
        <TextInput
          label="Why it goes out all the same (a lead decides)"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      )}
      <Trouble error={change.error} />
      <div>
        <button
          className={fine ? 'button now' : 'button'}
          disabled={change.isPending || (!fine && !reason.trim())}
        >
          Mark it ready
        </button>
      </div>
    </form>
  )
}

/** The machine goes back to the customer. */
export function HandBackForm({ order }: { order: OrderView }) {
  const [to, setTo] = useState('')
  const [oldParts, setOldParts] = useState('')
  const change = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/hand-back', {
      params: { path: { number: order.number }, header },
      body: { to, oldParts: oldParts || null },
    }),
  )
  if (!may(order, 'hand-back')) {
    const done = order.journal.find((l) => l.kind.startsWith('handed-back'))
    return done ? <p>{done.text}</p> : null
  }
  return (
    <form className="form" onSubmit={submit(() => change.send(null))}>
      <TextInput label="Who takes it" value={to} onChange={(e) => setTo(e.target.value)} />
      <Textarea
        label="What became of the old parts"
        autosize
        value={oldParts}
        onChange={(e) => setOldParts(e.target.value)}
      />
      <Trouble error={change.error} />
      <div>
        <button className="button now" disabled={!to.trim() || change.isPending}>
          Hand it back
        </button>
      </div>
    </form>
  )
}

export const submit = (action: () => void) => (event: { preventDefault(): void }) => {
  event.preventDefault()
  action()
}
