import { TextInput } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, newKey, type BatchView, type Offer } from '../api/client'
import { Trouble } from '../parts/Trouble'
import '../order/order.css'
import { QuoteTable } from '../plan/QuoteTable'
import { ShownLink } from '../plan/ShownLink'
import { counted, exact } from '../words'
import { ordersFor, useBatchChange } from './useBatch'

/** One quote, and one word of the customer for all that are planned. */
export function BatchQuote({ batch }: { batch: BatchView }) {
  const agree = ordersFor(batch, 'agree')
  const [customer, setCustomer] = useState('')
  const change = useBatchChange(batch.number)
  return (
    <>
      {batch.quote && <QuoteTable quote={batch.quote} />}
      {agree.length > 0 && (
        <form
          className="form"
          onSubmit={(e) => {
            e.preventDefault()
            change.send({ path: 'agreement', body: { customer, note: null, only: null } })
          }}
        >
          <TextInput
            label="Who agreed, and how"
            placeholder="K. Brandt, by mail"
            value={customer}
            onChange={(e) => setCustomer(e.target.value)}
          />
          <Trouble error={change.error} />
          <div className="row">
            <button className="button" disabled={!customer.trim() || change.isPending}>
              Agrees for {counted(agree.length, 'machine', 'machines')}
            </button>
            <button
              type="button"
              className="button"
              disabled={!customer.trim() || change.isPending}
              onClick={() => change.send({ path: 'decline', body: { customer, reason: null } })}
            >
              Declines
            </button>
          </div>
        </form>
      )}
      {ordersFor(batch, 'offer-quote').length > 0 && <OneLink batch={batch} />}
    </>
  )
}

function OneLink({ batch }: { batch: BatchView }) {
  const client = useQueryClient()
  const [offer, setOffer] = useState<Offer | null>(null)
  const revoke = useBatchChange(batch.number)
  const make = useMutation({
    mutationFn: async (header: ReturnType<typeof newKey>) =>
      (
        await api.POST('/api/v1/batches/{batch}/quote/link', {
          params: { path: { batch: batch.number }, header },
          body: { days: 14 },
        })
      ).data!,
    onSuccess: (made) => {
      setOffer(made)
      return client.invalidateQueries({ queryKey: ['batch'] })
    },
  })
  return (
    <div className="stack" style={{ gap: 8 }}>
      {batch.offered && (
        <p className="small">
          One link is open for all until {exact(batch.offered.until)}. It closes once one of them is planned
          anew.
        </p>
      )}
      {offer && batch.offered && <ShownLink offer={offer} />}
      <Trouble error={make.error ?? revoke.error} />
      <div className="row">
        <button className="button" disabled={make.isPending} onClick={() => make.mutate(newKey())}>
          {batch.offered ? 'Make another link' : 'Make one link for all'}
        </button>
        {batch.offered && (
          <button
            className="button"
            disabled={revoke.isPending}
            onClick={() => revoke.send({ path: 'quote/revoke', body: null })}
          >
            Take it back
          </button>
        )}
      </div>
    </div>
  )
}
