import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { rememberedPerson, type OrderView } from '../api/client'
import { shopQuery } from '../api/queries'
import { Field } from './Field'
import type { Say } from './queue'

const gates = [
  'power-not-isolated',
  'still-cooling',
  'seal-consent-missing',
  'boot-copy-missing',
  'tally-open',
  'wrong-bay',
]

type Props = { order: OrderView; step: string; code: string; say: Say; done: () => void }

/** The way past a closed gate: what the customer said, or a lead's reason. */
export function Waive({ order, step, code, say, done }: Props) {
  const [text, setText] = useState('')
  const people = useQuery(shopQuery).data?.people ?? []
  const lead = people.find((p) => p.id === rememberedPerson())?.role === 'lead'
  const tell = (path: string, body: unknown, title: string) => {
    say({ path: `orders/${order.number}/${path}`, body, step, title, confirms: false })
    setText('')
    done()
  }
  const asks = code === 'seal-consent-missing' || code === 'boot-copy-missing'
  if (!asks && !(lead && gates.includes(code))) return null
  return (
    <div className="row waive">
      <Field label={asks ? 'Who said so, and how' : 'Reason, by a lead'} value={text} onChange={setText} />
      {code === 'seal-consent-missing' && (
        <button
          className="button"
          disabled={!text.trim()}
          onClick={() => tell('seal', { consent: 'given', customer: text }, 'Warranty seal:')}
        >
          Customer allows it
        </button>
      )}
      {code === 'boot-copy-missing' && (
        <>
          <button
            className="button"
            disabled={!text.trim()}
            onClick={() => tell('copy', { copy: 'verified', text }, 'Copy:')}
          >
            Copy verified
          </button>
          <button
            className="button"
            disabled={!text.trim()}
            onClick={() => tell('copy', { copy: 'waived', text }, 'Copy:')}
          >
            Customer goes without
          </button>
        </>
      )}
      {lead && (
        <button
          className="button"
          disabled={!text.trim()}
          onClick={() => tell('waivers', { gate: code, step, reason: text }, 'Waived:')}
        >
          Waive it
        </button>
      )}
    </div>
  )
}
