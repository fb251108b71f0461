import { useQuery } from '@tanstack/react-query'
import { api, type OrderView } from '../api/client'
import { adoptionQuery, useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'

/** A newer revision of the guide: what it would change here, and going on by it. */
export function Adopt({ order }: { order: OrderView }) {
  const look = useQuery(adoptionQuery(order))
  const change = useChange(async (revision: number, header) =>
    api.POST('/api/v1/orders/{number}/adopt', {
      params: { path: { number: order.number }, header },
      body: { revision },
    }),
  )
  if (!look.data) return null
  const { revision, whyNot, planDropped, gone, ...rest } = look.data
  return (
    <div className="stack adopt">
      {whyNot && <p className="small muted">It cannot be taken here: {whyNot}</p>}
      {planDropped && <p className="small">The plan does not suit it and would be made anew.</p>}
      {rest.new.length > 0 && <p className="small">New here: {rest.new.join(', ')}.</p>}
      {gone.length > 0 && <p className="small">No longer: {gone.join(', ')}.</p>}
      <Trouble error={change.error} />
      {!whyNot && (
        <div>
          <button className="button" disabled={change.isPending} onClick={() => change.send(revision)}>
            Go on by revision {revision}
          </button>
        </div>
      )}
    </div>
  )
}
