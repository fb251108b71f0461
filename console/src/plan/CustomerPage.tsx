import { TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { api, newKey } from '../api/client'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { counted, exact } from '../words'
import { QuoteTable } from './QuoteTable'
import '../parts/customer.css'
import './plan.css'

/** What the customer sees on the telephone: what is done, what is at risk, what it costs, and two buttons. */
export function CustomerPage() {
  useTitle('Quote')
  const { link } = useParams({ from: '/quote/$link' })
  const client = useQueryClient()
  const [name, setName] = useState('')
  const [note, setNote] = useState('')
  const quote = useQuery({
    queryKey: ['customer', link],
    queryFn: async () => (await api.GET('/api/v1/quotes/{link}', { params: { path: { link } } })).data!,
    retry: false,
  })
  const answer = useMutation({
    mutationFn: async ({ agree, header }: { agree: boolean; header: ReturnType<typeof newKey> }) =>
      (
        await api.POST('/api/v1/quotes/{link}/answer', {
          params: { path: { link } },
          headers: header,
          body: { agree, name, note: note || null },
        })
      ).data,
    onSuccess: () => client.invalidateQueries({ queryKey: ['customer', link] }),
  })
  const q = quote.data
  if (!q) return <Waiting error={quote.error} />
  const send = (agree: boolean) => answer.mutate({ agree, header: newKey() })
  return (
    <main className="customer stack">
      <p className="muted">{q.shop}</p>
      <h1>{q.machine}</h1>
      <p>
        {q.serials ? counted(q.serials.length, 'machine', 'machines') : 'Order'}{' '}
        <b className="mono">{q.serials ? `from order ${q.order} on` : q.order}</b>, {q.customer}
      </p>
      {q.serials && <p className="mono small serials">{q.serials.join(' · ')}</p>}
      <section className="stack">
        <h2>What will be done</h2>
        <ul className="plain">
          {q.quote.work.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      </section>
      <section className="stack">
        <h2>What is at risk</h2>
        <ul className="plain">
          {q.quote.risks.map((r) => (
            <li key={r}>{r}</li>
          ))}
        </ul>
      </section>
      <section className="stack">
        <h2>What it costs</h2>
        <QuoteTable quote={q.quote} />
      </section>
      {q.answered ? (
        <p className={`sheet verdict ${q.answered === 'agreed' ? 'as-planned' : 'unknown'}`} role="status">
          {q.answered === 'agreed'
            ? '✓ You agreed. The bench begins.'
            : 'You declined. The shop will call you.'}
        </p>
      ) : (
        <form className="form" onSubmit={(e) => e.preventDefault()}>
          <TextInput
            label="Your name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            autoComplete="name"
          />
          <TextInput label="A word to the shop" value={note} onChange={(e) => setNote(e.target.value)} />
          <Trouble error={answer.error} />
          <div className="row answers">
            <button
              type="button"
              className="button now"
              disabled={!name.trim() || answer.isPending}
              onClick={() => send(true)}
            >
              Agree
            </button>
            <button
              type="button"
              className="button"
              disabled={!name.trim() || answer.isPending}
              onClick={() => send(false)}
            >
              Decline
            </button>
          </div>
          <p className="muted small">Open until {exact(q.until)}.</p>
        </form>
      )}
    </main>
  )
}
