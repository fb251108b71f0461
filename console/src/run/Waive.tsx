import { useState } from 'react'
import type { OrderView } from '../api/client'
import { useMe } from '../api/me'
import { Field } from './Field'
import type { Said, Say } from './queue'

type Refusal = NonNullable<Said['refused']>

type Props = { order: OrderView; step: string; refusal: Refusal; say: Say; done: () => void }

/** The way past a closed gate: what the customer said, or a lead's reason. */
export function Waive({ order, step, refusal, say, done }: Props) {
  const { code } = refusal
  const [text, setText] = useState('')
  const me = useMe()
  const waives = me?.isLead && refusal.answers.includes('waiver')
  const tell = (path: string, body: unknown, title: string) => {
    say({ path: `orders/${order.number}/${path}`, body, step, title, confirms: false })
    setText('')
    done()
  }
  const asks = code === 'seal-consent-missing' || code === 'boot-copy-missing'
  if (!asks && !waives) return null
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
      {waives && (
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
