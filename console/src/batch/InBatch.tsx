import { TextInput } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { may } from '../order/acts'
import { Trouble } from '../parts/Trouble'

/** The batch that an order is of. */
export function InBatch({ order }: { order: OrderView }) {
  if (order.batch === null) return null
  return (
    <>
      <p>
        <Link to="/batches/$batch" params={{ batch: String(order.batch) }}>
          one of batch {order.batch}
        </Link>
      </p>
      {may(order, 'leave-batch') && <Leave order={order} />}
    </>
  )
}

function Leave({ order }: { order: OrderView }) {
  const [reason, setReason] = useState('')
  const change = useTold(order.number)
  return (
    <details>
      <summary className="muted small">It goes its own way</summary>
      <form
        className="form"
        onSubmit={(e) => {
          e.preventDefault()
          change.send({ path: 'leave-batch', body: { reason } })
        }}
      >
        <TextInput
          label="Why it leaves the batch"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
        <Trouble error={change.error} />
        <div>
          <button className="button" disabled={!reason.trim() || change.isPending}>
            Leave batch {order.batch}
          </button>
        </div>
      </form>
    </details>
  )
}
