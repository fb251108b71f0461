import { NativeSelect, TextInput } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { may } from './acts'

/** What was written down over the counter. */
export function IntakeFacts({ order }: { order: OrderView }) {
  return (
    <>
      <Facts order={order} />
      {may(order, 'correct-intake') && <Correct order={order} />}
    </>
  )
}

function Facts({ order }: { order: OrderView }) {
  const i = order.intake
  const facts: [string, string | null][] = [
    ['complaint', i.complaint],
    ['goal', i.goal],
    ['contact', i.contact],
    ['serial', i.serial],
    ['with it', i.accessories],
    ['condition', i.condition],
    ['backup', i.backup],
    [
      'warranty seal',
      { 'no-seal': 'none', given: 'may be broken', refused: 'must stay whole' }[i.sealConsent],
    ],
    ['boot drive', order.copy && `copy ${order.copy.copy}: ${order.copy.text}`],
    ['build', order.variant],
    ['tell apart', order.model.tellApart],
  ]
  return (
    <dl className="facts">
      {facts.map(
        ([name, value]) =>
          value && (
            <div key={name} className="fact">
              <dt>{name}</dt>
              <dd className={name === 'serial' ? 'mono' : undefined}>{value}</dd>
            </div>
          ),
      )}
      <div className="fact">
        <dt>guide</dt>
        <dd>
          <Link to="/guides/$code" params={{ code: order.model.code }}>
            {order.model.code}
          </Link>{' '}
          revision {order.revision}
        </dd>
      </div>
    </dl>
  )
}

type Backup = OrderView['intake']['backup']

/** What was written down was not so: by whom and why stays in the journal. */
function Correct({ order }: { order: OrderView }) {
  const [serial, setSerial] = useState('')
  const [contact, setContact] = useState('')
  const [backup, setBackup] = useState<Backup | ''>('')
  const [reason, setReason] = useState('')
  const change = useTold(order.number)
  return (
    <details>
      <summary className="muted">Correct serial, contact or backup</summary>
      <form
        className="form"
        onSubmit={(e) => {
          e.preventDefault()
          change.send(
            {
              path: 'intake',
              body: { serial: serial || null, contact: contact || null, backup: backup || null, reason },
            },
            () => setReason(''),
          )
        }}
      >
        <div className="two">
          <TextInput label="Serial" value={serial} onChange={(e) => setSerial(e.target.value)} />
          <TextInput label="Contact" value={contact} onChange={(e) => setContact(e.target.value)} />
        </div>
        <div className="two">
          <NativeSelect
            label="Backup"
            value={backup}
            onChange={(e) => setBackup(e.target.value as Backup | '')}
            data={[
              { value: '', label: 'as it is' },
              { value: 'made', label: 'made' },
              { value: 'waived', label: 'waived' },
              { value: 'unknown', label: 'not known' },
            ]}
          />
          <TextInput label="Why" value={reason} onChange={(e) => setReason(e.target.value)} />
        </div>
        <Trouble error={change.error} />
        <div>
          <button
            className="button"
            disabled={!reason.trim() || !(serial.trim() || contact.trim() || backup) || change.isPending}
          >
            Correct it
          </button>
        </div>
      </form>
    </details>
  )
}
