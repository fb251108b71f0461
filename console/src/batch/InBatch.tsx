import { NativeSelect, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { OrderView } from '../api/client'
import { shopQuery, useTold } from '../api/queries'
import { may } from '../order/acts'
import { Trouble } from '../parts/Trouble'

/** The batch that an order is of, and who has the machine in hand. */
export function InBatch({ order }: { order: OrderView }) {
  const people = useQuery(shopQuery).data?.people.filter((p) => p.role !== 'desk') ?? []
  const change = useTold(order.number)
  return (
    <>
      <div className="row">
        {order.batch !== null && (
          <Link to="/batches/$batch" params={{ batch: String(order.batch) }}>
            one of batch {order.batch}
          </Link>
        )}
        {may(order, 'name-owner') ? (
          <NativeSelect
            aria-label="In whose hands"
            value={order.owner ?? ''}
            disabled={change.isPending}
            onChange={(e) => change.send({ path: 'owner', body: { owner: e.target.value || null } })}
            data={[
              { value: '', label: 'in nobody’s hands' },
              ...people.map((p) => ({ value: p.id, label: `in ${p.name.split(' ')[0]}’s hands` })),
            ]}
          />
        ) : null}
      </div>
      <Trouble error={change.error} />
      {order.batch !== null && may(order, 'leave-batch') && <Leave order={order} />}
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
