import { TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, newKey, type Offer, type OrderView } from '../api/client'
import { quoteQuery, useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { QuoteTable } from '../plan/QuoteTable'
import { ShownLink } from '../plan/ShownLink'
import { exact } from '../words'
import { may } from './acts'
import { submit } from './DecisionForms'

type Props = { order: OrderView; now: boolean }

/** What the customer is told, and what the customer says: at the desk, or behind a link. */
export function QuotePart({ order, now }: Props) {
  const quote = useQuery(quoteQuery(order)).data
  return (
    <>
      {order.declined && (
        <p className="trouble">
          {order.declined.customer} declined{order.declined.reason && `: ${order.declined.reason}`}
        </p>
      )}
      {quote && (
        <>
          <ul>
            {quote.risks.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
          <QuoteTable quote={quote} />
          <p className="muted small">
            {quote.pastRuns > 0
              ? `${quote.minutes} min, by ${quote.pastRuns} past runs.`
              : `${quote.minutes} min, by the guide.`}{' '}
            <a href={`/api/v1/orders/${order.number}/quote.pdf`} target="_blank" rel="noreferrer">
              On paper
            </a>
          </p>
        </>
      )}
      {may(order, 'agree') ? (
        <>
          <AgreeForm order={order} now={now} />
          {may(order, 'offer-quote') && <LinkForm order={order} />}
        </>
      ) : (
        order.agreedBy && <p>Agreed: {order.agreedBy}</p>
      )}
    </>
  )
}

function AgreeForm({ order, now }: Props) {
  const [customer, setCustomer] = useState('')
  const change = useChange(async (agrees: boolean, header) => {
    const params = { path: { number: order.number }, header }
    return agrees
      ? api.POST('/api/v1/orders/{number}/agreement', { params, body: { customer } })
      : api.POST('/api/v1/orders/{number}/decline', { params, body: { customer } })
  })
  return (
    <form className="form" onSubmit={submit(() => change.send(true))}>
      <TextInput
        label="Who agreed, and how"
        placeholder="R. Fahr, by mail"
        value={customer}
        onChange={(e) => setCustomer(e.target.value)}
      />
      <Trouble error={change.error} />
      <div className="row">
        <button className={now ? 'button now' : 'button'} disabled={!customer.trim() || change.isPending}>
          The customer agrees
        </button>
        <button
          type="button"
          className="button"
          disabled={!customer.trim() || change.isPending}
          onClick={() => change.send(false)}
        >
          Declines
        </button>
      </div>
    </form>
  )
}

/** The link is shown once; who lost it makes another, which closes this one. */
function LinkForm({ order }: { order: OrderView }) {
  const client = useQueryClient()
  const [offer, setOffer] = useState<Offer | null>(null)
  const refetch = () => client.invalidateQueries({ queryKey: ['order', order.number] })
  const make = useMutation({
    mutationFn: async (header: ReturnType<typeof newKey>) =>
      (
        await api.POST('/api/v1/orders/{number}/quote/link', {
          params: { path: { number: order.number }, header },
          body: { days: 14 },
        })
      ).data!,
    onSuccess: (offer) => {
      setOffer(offer)
      return refetch()
    },
  })
  const revoke = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/quote/revoke', { params: { path: { number: order.number }, header } }),
  )
  return (
    <div className="stack" style={{ gap: 8 }}>
      {order.offered && (
        <p className="small">
          A link is open until {exact(order.offered.until)}. The customer agrees or declines there.
        </p>
      )}
      {offer && order.offered && <ShownLink offer={offer} />}
      <Trouble error={make.error ?? revoke.error} />
      <div className="row">
        <button className="button" disabled={make.isPending} onClick={() => make.mutate(newKey())}>
          {order.offered ? 'Make another link' : 'Make a link for the customer'}
        </button>
        {order.offered && (
          <button className="button" disabled={revoke.isPending} onClick={() => revoke.send(null)}>
            Take it back
          </button>
        )}
      </div>
    </div>
  )
}
