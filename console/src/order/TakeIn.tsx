import { NativeSelect, SegmentedControl, Textarea, TextInput } from '@mantine/core'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api } from '../api/client'
import { guidesQuery, machineQuery, useChange } from '../api/queries'
import { items } from '../parts/More'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import './order.css'

const blank = {
  model: '',
  customer: '',
  contact: '',
  serial: '',
  complaint: '',
  goal: '',
  accessories: '',
  condition: '',
  backup: 'unknown' as 'unknown' | 'made' | 'waived',
  sealConsent: 'no-seal' as 'no-seal' | 'given' | 'refused',
  variant: '',
}

/** The desk takes a machine in. */
export function TakeIn() {
  useTitle('Take in')
  const guides = useInfiniteQuery(guidesQuery())
  const navigate = useNavigate()
  const [form, setForm] = useState(blank)
  const change = useChange(async (body: typeof blank, header) =>
    api.POST('/api/v1/orders', {
      params: { header },
      body: { ...body, variant: body.variant || null },
    }),
  )
  if (!guides.data) return <Waiting error={guides.error} />
  const model = items(guides).find((g) => g.code === form.model)
  const text = (name: Exclude<keyof typeof blank, 'backup' | 'sealConsent' | 'model' | 'variant'>) => ({
    value: form[name],
    onChange: (e: { target: { value: string } }) => setForm({ ...form, [name]: e.target.value }),
  })
  return (
    <div className="page take-in">
      <form
        className="sheet form"
        onSubmit={(e) => {
          e.preventDefault()
          change.send(
            form,
            (receipt) => void navigate({ to: '/orders/$number', params: { number: String(receipt.order) } }),
          )
        }}
      >
        <h1>Take in a machine</h1>
        <div className="two">
          <NativeSelect
            label="Model"
            required
            value={form.model}
            onChange={(e) => setForm({ ...form, model: e.target.value, variant: '' })}
            data={[
              { value: '', label: 'choose…', disabled: true },
              ...items(guides).map((g) => ({ value: g.code, label: `${g.maker} ${g.name} (${g.code})` })),
            ]}
          />
          <TextInput label="Serial" {...text('serial')} />
        </div>
        <div className="two">
          <TextInput label="Customer" required {...text('customer')} />
          <TextInput label="Contact" {...text('contact')} />
        </div>
        <Textarea label="Complaint" required autosize minRows={2} {...text('complaint')} />
        <Textarea label="What the customer wants to do with it" autosize {...text('goal')} />
        <div className="two">
          <TextInput label="Accessories" {...text('accessories')} />
          <TextInput label="Condition" {...text('condition')} />
        </div>
        <div className="two">
          <Choice
            label="Backup"
            value={form.backup}
            onChange={(backup) => setForm({ ...form, backup })}
            data={[
              { value: 'unknown', label: 'not known' },
              { value: 'made', label: 'made' },
              { value: 'waived', label: 'waived' },
            ]}
          />
          <Choice
            label="Warranty seal"
            value={form.sealConsent}
            onChange={(sealConsent) => setForm({ ...form, sealConsent })}
            data={[
              { value: 'no-seal', label: 'none' },
              { value: 'given', label: 'may break' },
              { value: 'refused', label: 'must stay' },
            ]}
          />
        </div>
        <OpenToo serial={form.serial.trim()} />
        <Trouble error={change.error} />
        <div>
          <button
            className="button now"
            disabled={!form.model || !form.customer.trim() || !form.complaint.trim() || change.isPending}
          >
            Take it in
          </button>
        </div>
      </form>
      {model && (
        <aside className="sheet stack">
          <h2>
            {model.maker} {model.name}
          </h2>
          <p className="muted">
            {model.kind}, {model.slots} {model.slots === 1 ? 'slot' : 'slots'}, guide revision{' '}
            {model.revision}
          </p>
          {model.tellApart && (
            <p>
              <b>Tell apart:</b> {model.tellApart}
            </p>
          )}
          {model.variants.length > 0 && (
            <NativeSelect
              label="Which build is it"
              value={form.variant}
              onChange={(e) => setForm({ ...form, variant: e.target.value })}
              data={[
                { value: '', label: 'not looked yet' },
                ...model.variants.map((v) => ({ value: v.id, label: `${v.id}: ${v.tellApart}` })),
              ]}
            />
          )}
        </aside>
      )}
    </div>
  )
}

/** Another order of this very machine that is open already. */
function OpenToo({ serial }: { serial: string }) {
  const machine = useQuery({ ...machineQuery(serial), enabled: serial.length > 2, retry: false })
  const open = machine.data?.orders.filter((o) => !['handed-back', 'cancelled'].includes(o.stage)) ?? []
  return open.map((o) => (
    <p key={o.number}>
      <span className="verdict remark">!</span> This machine is open already:{' '}
      <Link to="/orders/$number" params={{ number: String(o.number) }}>
        order {o.number}
      </Link>
      , {o.customer}
    </p>
  ))
}

function Choice<T extends string>(props: {
  label: string
  value: T
  onChange: (value: T) => void
  data: { value: T; label: string }[]
}) {
  return (
    <fieldset className="choice">
      <legend>{props.label}</legend>
      <SegmentedControl
        fullWidth
        value={props.value}
        onChange={(v) => props.onChange(v as T)}
        data={props.data}
        aria-label={props.label}
      />
    </fieldset>
  )
}
