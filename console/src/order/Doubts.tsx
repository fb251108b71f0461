import { TextInput } from '@mantine/core'
import { useState } from 'react'
import type { OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { may } from './acts'

/** What speaks against the before reading: a question that somebody answers before anything is planned from it. */
export function Doubts({ order }: { order: OrderView }) {
  const [reason, setReason] = useState('')
  const change = useTold(order.number)
  if (order.doubts.length === 0) return null
  return (
    <div className="stack doubts" role="group" aria-label="Doubts">
      {order.doubts.map((d) => (
        <p key={d}>
          <b className="off">?</b> {d}
        </p>
      ))}
      {may(order, 'vouch-reading') && (
        <form
          className="row"
          onSubmit={(e) => {
            e.preventDefault()
            change.send({ path: 'vouch', body: { reason } })
          }}
        >
          <TextInput
            aria-label="Why the reading is of this machine"
            placeholder="why it is of this machine"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <button className="button" disabled={!reason.trim() || change.isPending}>
            It is right
          </button>
        </form>
      )}
      <Trouble error={change.error} />
    </div>
  )
}
