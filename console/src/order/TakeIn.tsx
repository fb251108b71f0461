import { NativeSelect, SegmentedControl, Textarea, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, isLost, newKey, type ArrivalView, type ModelMatch } from '../api/client'
import { arrivalQuery, guidesQuery, machineQuery, shopQuery, useChange } from '../api/queries'
import { SerialList } from '../batch/SerialList'
import { OftenTried, oftenTried } from './OftenTried'
import { batchListQuery } from '../batch/useBatch'
import { items } from '../parts/More'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { counted } from '../words'
import { Arrivals, Noted, Told } from './Arrivals'
import './order.css'

// What the list of models ends with: a machine that no guide knows.
const unknown = '?'

const blank = {
  model: '',
  customer: '',
  contact: '',
  serial: '',
  complaint: '',
  goal: '',
  trial: '',
  accessories: '',
  condition: '',
  backup: 'unknown' as 'unknown' | 'made' | 'waived',
  sealConsent: 'no-seal' as 'no-seal' | 'given' | 'refused',
  variant: '',
  maker: '',
  name: '',
  kind: 'laptop',
}

/** The desk takes a machine in. */
export function TakeIn() {
  useTitle('Take in')
  const guides = useInfiniteQuery(guidesQuery())
  const shop = useQuery(shopQuery)
  const navigate = useNavigate()
  const [form, setForm] = useState(blank)
  const [arrival, setArrival] = useState<string | null>(null)
  // The list of those that come in together; null where one comes alone.
  const [serials, setSerials] = useState<string | null>(null)
  // A scanner types faster than a list is worth asking for.
  const [asked] = useDebouncedValue(serials ?? '', 150)
  const list = useQuery(batchListQuery(asked))
  const lines = serials?.trim() ? (list.data?.lines ?? []) : []
  const client = useQueryClient()
  const together = useMutation({
    mutationFn: async ({ header }: { header: ReturnType<typeof newKey> }) => {
      const { accessories, condition, variant, model: code, maker, name, kind } = form
      const { customer, contact, complaint, goal, trial, backup, sealConsent } = form
      return (
        await api.POST('/api/v1/batches', {
          params: { header },
          body: {
            customer,
            contact,
            complaint,
            goal,
            trial,
            backup,
            sealConsent,
            model: code === unknown ? null : code,
            newModel: code === unknown ? { maker, name, kind } : null,
            machines: lines.map(({ machine }) => ({
              ...machine,
              variant: machine.variant ?? (variant || null),
              accessories: machine.accessories ?? (accessories || null),
              condition: machine.condition ?? (condition || null),
            })),
          },
        })
      ).data!
    },
    retry: (count, error) => isLost(error) && count < 3,
    onSuccess: async (taken) => {
      await client.invalidateQueries({ queryKey: ['board'] })
      await navigate({ to: '/batches/$batch', params: { batch: String(taken.batch) } })
    },
  })
  const model = form.model === unknown ? '' : form.model
  const told = useQuery({
    ...arrivalQuery(arrival, model, form.serial.trim()),
    placeholderData: (old) => old,
  })
  const change = useChange(async ({ maker, name, kind, ...body }: typeof blank, header) =>
    api.POST('/api/v1/orders', {
      params: { header },
      body: {
        ...body,
        model: body.model === unknown ? null : body.model,
        newModel: body.model === unknown ? { maker, name, kind } : null,
        variant: body.variant || null,
        arrival,
      },
    }),
  )
  if (!guides.data) return <Waiting error={guides.error} />
  const choose = (a: ArrivalView | null) => {
    setArrival(a?.id ?? null)
    if (!a?.told) return
    const sure = new Set(a.told.models.filter((m) => m.reported).map((m) => m.code))
    const only = sure.size === 1 ? a.told.models.find((m) => m.reported)! : null
    setForm({
      ...form,
      serial: a.told.serial ?? form.serial,
      model: only?.code ?? (a.told.models.length === 0 ? unknown : ''),
      variant: only?.build ?? '',
      maker: a.told.maker ?? '',
      name: a.told.product ?? '',
    })
  }
  const takeUp = (goal: string) => setForm({ ...form, goal })
  const guide = items(guides).find((g) => g.code === form.model)
  const text = (
    name: Exclude<keyof typeof blank, 'backup' | 'sealConsent' | 'model' | 'variant' | 'kind'>,
  ) => ({
    value: form[name],
    onChange: (e: { target: { value: string } }) => setForm({ ...form, [name]: e.target.value }),
  })
  return (
    <div className="page take-in">
      <form
        className="sheet form"
        onSubmit={(e) => {
          e.preventDefault()
          if (serials !== null) return together.mutate({ header: newKey() })
          change.send(
            form,
            (receipt) => void navigate({ to: '/orders/$number', params: { number: String(receipt.order) } }),
          )
        }}
      >
        <div className="row">
          <h1>{serials === null ? 'Take in a machine' : 'Take in several together'}</h1>
          <SegmentedControl
            className="alone-or-together"
            aria-label="How many"
            value={serials === null ? 'one' : 'many'}
            onChange={(v) => setSerials(v === 'many' ? form.serial : null)}
            data={[
              { value: 'one', label: 'one machine' },
              { value: 'many', label: 'several alike' },
            ]}
          />
        </div>
        <div className="two">
          <NativeSelect
            label="Model"
            required
            value={form.model}
            onChange={(e) => setForm({ ...form, model: e.target.value, variant: '' })}
            data={[
              { value: '', label: 'choose…', disabled: true },
              ...items(guides).map((g) => ({
                value: g.code,
                label: `${g.maker} ${g.name} (${g.code})${g.sketch ? ', sketch' : ''}`,
              })),
              { value: unknown, label: 'another: no guide knows it' },
            ]}
          />
          {serials === null && <TextInput label="Serial" {...text('serial')} />}
        </div>
        {serials !== null && (
          <SerialList text={serials} lines={lines} error={list.error} onChange={setSerials} />
        )}
        {told.data?.told && form.model !== unknown && (
          <Matches
            models={told.data.told.models}
            chosen={form.variant || form.model}
            onChoose={(m) => setForm({ ...form, model: m.code, variant: m.build ?? '' })}
          />
        )}
        {form.model === unknown && (
          <div className="three">
            <TextInput label="Maker" required {...text('maker')} />
            <TextInput label="What stands on it" required {...text('name')} />
            <NativeSelect
              label="Kind"
              value={form.kind}
              onChange={(e) => setForm({ ...form, kind: e.target.value })}
              data={shop.data?.kinds ?? [form.kind]}
            />
          </div>
        )}
        {told.data?.told && <Told arrival={told.data} onTakeUp={takeUp} />}
        <div className="two">
          <TextInput label="Customer" required {...text('customer')} />
          <TextInput label="Contact" {...text('contact')} />
        </div>
        <Textarea label="Complaint" required autosize minRows={2} {...text('complaint')} />
        <Textarea label="What the customer wants to do with it" autosize {...text('goal')} />
        <TextInput
          label="Of that, what we are to try on it afterwards"
          list={oftenTried}
          {...text('trial')}
        />
        <OftenTried />
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
        {serials === null && !told.data?.told && <WasHere serial={form.serial.trim()} onTakeUp={takeUp} />}
        <Trouble error={serials === null ? change.error : together.error} />
        <div>
          <button
            className="button now"
            disabled={
              !form.model ||
              (form.model === unknown && !(form.maker.trim() && form.name.trim())) ||
              !form.customer.trim() ||
              !form.complaint.trim() ||
              change.isPending ||
              (serials !== null &&
                (lines.length === 0 || asked !== serials || list.isFetching || together.isPending))
            }
          >
            {serials === null ? 'Take it in' : `Take ${counted(lines.length, 'machine', 'machines')} in`}
          </button>
        </div>
      </form>
      <aside className="stack take-in-aside">
        <div className="sheet">
          <Arrivals chosen={arrival} onChoose={choose} />
        </div>
        {form.model === unknown && (
          <div className="sheet stack">
            <h2>A model that the shop does not know</h2>
            <p className="muted">
              It is taken in under a sketch. What comes off is said as it comes off, and is the next
              technician&apos;s guide.
            </p>
          </div>
        )}
        {guide && (
          <div className="sheet stack">
            <h2>
              {guide.maker} {guide.name}
            </h2>
            <p className="muted">
              {guide.kind}, {guide.slots} {guide.slots === 1 ? 'slot' : 'slots'}, guide revision{' '}
              {guide.revision}
            </p>
            {guide.tellApart && (
              <p>
                <b>Tell apart:</b> {guide.tellApart}
              </p>
            )}
            {guide.variants.length > 0 && (
              <NativeSelect
                label="Which build is it"
                value={form.variant}
                onChange={(e) => setForm({ ...form, variant: e.target.value })}
                data={[
                  { value: '', label: 'not looked yet' },
                  ...guide.variants.map((v) => ({ value: v.id, label: `${v.id}: ${v.tellApart}` })),
                ]}
              />
            )}
          </div>
        )}
      </aside>
    </div>
  )
}

/** Another order of this very machine that is open already, and what the last one left. */
function WasHere({ serial, onTakeUp }: { serial: string; onTakeUp: (words: string) => void }) {
  const machine = useQuery({ ...machineQuery(serial), enabled: serial.length > 2, retry: false })
  const open = machine.data?.orders.filter((o) => !['handed-back', 'cancelled'].includes(o.stage)) ?? []
  return (
    <>
      {open.map((o) => (
        <p key={o.number}>
          <span className="verdict remark">!</span> This machine is open already:{' '}
          <Link to="/orders/$number" params={{ number: String(o.number) }}>
            order {o.number}
          </Link>
          , {o.customer}
        </p>
      ))}
      {machine.data?.noted && <Noted noted={machine.data.noted} onTakeUp={onTakeUp} />}
    </>
  )
}

/** Which of the shop's models it may be, with what tells them apart. */
function Matches(props: { models: ModelMatch[]; chosen: string; onChoose: (model: ModelMatch) => void }) {
  if (props.models.length === 0) return null
  return (
    <div className="stack" role="group" aria-label="Which of ours it is">
      {props.models.map((m) => (
        <button
          key={`${m.code} ${m.build}`}
          type="button"
          className="arrival"
          aria-pressed={props.chosen === (m.build ?? m.code)}
          onClick={() => props.onChoose(m)}
        >
          <b>
            {m.maker} {m.name} <span className="mono">{m.build ?? m.code}</span>
          </b>
          <span>{m.reported ? 'reports so' : 'is called alike'}</span>
          {m.tellApart && <span className="muted small">{m.tellApart}</span>}
        </button>
      ))}
    </div>
  )
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
