import { useState } from 'react'
import type { Gate, OrderChange } from '../api/client'
import { useMe } from '../api/me'
import { Field } from './Field'
import type { Said, Say } from '../away/queue'

type Refusal = NonNullable<Said['refused']>

type Props = { step: string; refusal: Refusal; say: Say; done: () => void }

/** The way past a closed gate: what the customer said, or a lead's reason. */
export function Waive({ step, refusal, say, done }: Props) {
  const { code } = refusal
  const [text, setText] = useState('')
  const me = useMe()
  const waives = me?.isLead && refusal.answers.includes('waiver')
  const tell = (change: OrderChange, title: string) => {
    say({ ...change, step, title, confirms: false })
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
          onClick={() => tell({ path: 'seal', body: { consent: 'given', customer: text } }, 'Warranty seal:')}
        >
          Customer allows it
        </button>
      )}
      {code === 'boot-copy-missing' && (
        <>
          <button
            className="button"
            disabled={!text.trim()}
            onClick={() => tell({ path: 'copy', body: { copy: 'verified', text } }, 'Copy:')}
          >
            Copy verified
          </button>
          <button
            className="button"
            disabled={!text.trim()}
            onClick={() => tell({ path: 'copy', body: { copy: 'waived', text } }, 'Copy:')}
          >
            Customer goes without
          </button>
        </>
      )}
      {waives && (
        <button
          className="button"
          disabled={!text.trim()}
          onClick={() =>
            tell({ path: 'waivers', body: { gate: code as Gate, step, reason: text } }, 'Waived:')
          }
        >
          Waive it
        </button>
      )}
    </div>
  )
}
