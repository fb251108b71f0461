import { TextInput } from '@mantine/core'
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type Webhook, type WebhookMade } from '../api/client'
import { webhookMessagesQuery, webhooksQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { useAgain } from './again'

const useWebhooksAgain = () => useAgain(webhooksQuery.queryKey)

/** Other programs that are told what is recorded on orders; what none of them took is sent again from here. */
export function Webhooks() {
  const told = useQuery(webhooksQuery)
  return (
    <section className="sheet stack" aria-labelledby="webhooks">
      <h2 id="webhooks">Other programs</h2>
      {told.data?.webhooks.length === 0 && (
        <p className="muted">
          None yet. A program is told of each entry as it is recorded, signed by the rules of Standard
          Webhooks, and again where it does not take it.
        </p>
      )}
      {told.data?.webhooks.map((w) => (
        <Told key={w.id} webhook={w} />
      ))}
      {told.data?.mailFault && (
        <p>
          <b className="short">Mail could not be sent</b>: {told.data.mailFault}
        </p>
      )}
      {told.error && <Trouble error={told.error} />}
      {told.data && <Make kinds={told.data.kinds} />}
    </section>
  )
}

function Told({ webhook }: { webhook: Webhook }) {
  const params = { path: { webhook: webhook.id } }
  const again = useWebhooksAgain()
  const turn = useMutation({
    mutationFn: async () => {
      const { name, address, kinds, inWords, active } = webhook
      const body = { name, address, kinds, inWords, active: !active }
      await api.PUT('/api/v1/shop/webhooks/{webhook}', { params, body })
    },
    onSuccess: again,
  })
  const tryIt = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/shop/webhooks/{webhook}/try', { params })).data!,
  })
  const secret = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/shop/webhooks/{webhook}/secret', { params })).data!,
  })
  const [sure, setSure] = useState(false)
  const drop = useMutation({
    mutationFn: async () => {
      await api.DELETE('/api/v1/shop/webhooks/{webhook}', { params })
    },
    onSuccess: again,
  })
  const [open, setOpen] = useState(false)
  const error = turn.error ?? tryIt.error ?? secret.error ?? drop.error
  return (
    <article className="webhook stack" aria-label={webhook.name}>
      <div>
        <b>{webhook.name}</b> <span className="mono small">{webhook.address}</span>
        <p>
          {webhook.active ? `It is told of ${kindsOf(webhook)}.` : 'It is told nothing now.'}{' '}
          <span className="muted">
            {webhook.deliveredAt ? (
              <>
                Last taken <When at={webhook.deliveredAt} />
              </>
            ) : (
              'It took nothing yet'
            )}
            {webhook.waiting > 0 && `; ${webhook.waiting} waiting`}.
          </span>{' '}
          {webhook.dead > 0 && <b className="short">{webhook.dead} given up.</b>}
        </p>
      </div>
      <div className="row">
        <button className="button" disabled={tryIt.isPending} onClick={() => tryIt.mutate()}>
          Try it
        </button>
        <button className="button" aria-expanded={open} onClick={() => setOpen(!open)}>
          What it was told
        </button>
        <button className="button" disabled={turn.isPending} onClick={() => turn.mutate()}>
          {webhook.active ? 'Tell it nothing for now' : 'Tell it again'}
        </button>
        <button className="button" disabled={secret.isPending} onClick={() => secret.mutate()}>
          Another secret
        </button>
        <button className="button" onClick={() => (sure ? drop.mutate() : setSure(true))}>
          {sure ? `Yes: ${webhook.name} is told nothing more` : 'End it'}
        </button>
      </div>
      {tryIt.data && (
        <p role="status">
          <b className={tryIt.data.taken ? 'good' : 'short'}>{tryIt.data.taken ? 'Taken' : 'Not taken'}</b>:{' '}
          {tryIt.data.answer}
        </p>
      )}
      {secret.data && <Secret made={secret.data} before="The one before signs too for a day." />}
      {error && <Trouble error={error} />}
      {open && <Messages webhook={webhook} />}
    </article>
  )
}

const kindsOf = ({ kinds, inWords }: Webhook) =>
  (kinds.length === 0 ? 'every entry' : kinds.map(spaced).join(', ')) +
  (inWords ? ', with what people wrote' : '')

const spaced = (kind: string) => kind.replaceAll('-', ' ')

function Messages({ webhook }: { webhook: Webhook }) {
  const messages = useInfiniteQuery(webhookMessagesQuery(webhook.id))
  const again = useWebhooksAgain()
  const resend = useMutation({
    mutationFn: async (message: string | null) => {
      const params = { path: { webhook: webhook.id } }
      await api.POST('/api/v1/shop/webhooks/{webhook}/again', { params, body: { message } })
    },
    onSuccess: again,
  })
  const all = items(messages)
  return (
    <>
      {messages.data && all.length === 0 && <p className="muted">Nothing in the last thirty days.</p>}
      {webhook.dead > 0 && (
        <div className="row">
          <button className="button" onClick={() => resend.mutate(null)}>
            Send again what was given up ({webhook.dead})
          </button>
        </div>
      )}
      {all.length > 0 && (
        <table className="slots-table">
          <thead>
            <tr>
              <th>When</th>
              <th>What</th>
              <th>State</th>
              <th>Tries</th>
              <th>Answer</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {all.map((m) => (
              <tr key={m.position}>
                <td>
                  <When at={m.at} />
                </td>
                <td>{spaced(m.type.replace('order.', ''))}</td>
                <td>
                  {m.state === 'dead' ? <b className="short">given up</b> : m.state}
                  {m.state === 'waiting' && m.tries > 0 && (
                    <>
                      , again <When at={m.nextAt} />
                    </>
                  )}
                </td>
                <td>{m.tries}</td>
                <td>{m.answer}</td>
                <td>
                  {m.state !== 'waiting' && (
                    <button
                      className="button"
                      aria-label={`Send again: ${m.id}`}
                      onClick={() => resend.mutate(m.id)}
                    >
                      Send again
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <More list={messages} />
      {(messages.error ?? resend.error) && <Trouble error={messages.error ?? resend.error} />}
    </>
  )
}

function Make({ kinds }: { kinds: string[] }) {
  const [name, setName] = useState('')
  const [address, setAddress] = useState('')
  const [of, setOf] = useState<string[]>([])
  const [inWords, setInWords] = useState(false)
  const again = useWebhooksAgain()
  const make = useMutation({
    mutationFn: async () =>
      (await api.POST('/api/v1/shop/webhooks', { body: { name, address, kinds: of, inWords, active: true } }))
        .data!,
    onSuccess: () => {
      setName('')
      setAddress('')
      setOf([])
      return again()
    },
  })
  return (
    <>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          make.mutate()
        }}
      >
        <TextInput label="A program’s name" value={name} onChange={(e) => setName(e.target.value)} />
        <TextInput
          label="Where it listens"
          placeholder="https://…"
          value={address}
          onChange={(e) => setAddress(e.target.value)}
        />
        <label className="check">
          <input type="checkbox" checked={inWords} onChange={(e) => setInWords(e.target.checked)} /> With what
          people wrote
        </label>
        <button className="button" disabled={!name.trim() || !address.trim() || make.isPending}>
          Tell it
        </button>
      </form>
      <details className="kinds">
        <summary>Of what it is told: {of.length === 0 ? 'every entry' : of.map(spaced).join(', ')}</summary>
        <div>
          {kinds.map((kind) => (
            <label key={kind}>
              <input
                type="checkbox"
                checked={of.includes(kind)}
                onChange={() => setOf(of.includes(kind) ? of.filter((k) => k !== kind) : [...of, kind])}
              />{' '}
              {spaced(kind)}
            </label>
          ))}
        </div>
      </details>
      {make.data && <Secret made={make.data} before="It is told of what is recorded from now on." />}
      {make.error && <Trouble error={make.error} />}
    </>
  )
}

function Secret({ made, before }: { made: WebhookMade; before: string }) {
  return (
    <p className="told" role="status">
      <span className="mono">{made.secret}</span>
      <br />
      <span className="muted small">
        {made.webhook.name} proves our messages with it. {before} It is not shown again.
      </span>
    </p>
  )
}
