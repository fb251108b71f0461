import { NativeSelect, NumberInput, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, type InvoiceView, type OrderView, type PaymentWay } from '../api/client'
import { invoiceQuery, useChange } from '../api/queries'
import { may } from '../order/acts'
import { submit } from '../order/DecisionForms'
import { Trouble, Waiting } from '../parts/Trouble'
import { When } from '../parts/When'
import { decimals, exactDay, money } from '../words'
import '../plan/plan.css'
import './invoice.css'

/** What the order costs: as it was charged, else as it would be now; and what is paid of it. */
export function InvoicePart({ order }: { order: OrderView }) {
  const { number } = order
  const invoice = useQuery(invoiceQuery(number))
  const make = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/invoice', { params: { path: { number }, header } }),
  )
  const view = invoice.data
  if (!view) return <Waiting error={invoice.error} />
  return (
    <>
      <p className="row">
        {view.number ? (
          <>
            <b>Invoice {view.number}</b>
            <span className="muted small">
              made <When at={view.madeAt!} />, {view.madeBy}
            </span>
            <a href={`/api/v1/invoices/${view.number}/invoice.pdf`} target="_blank" rel="noreferrer">
              On paper
            </a>
            <Link to="/invoices">All invoices</Link>
          </>
        ) : (
          <span>As it would be made now. It has no number yet.</span>
        )}
      </p>
      <Table view={view} />
      {view.invoice.uncharged.length > 0 && (
        <ul className="plain small muted">
          {view.invoice.uncharged.map((u) => (
            <li key={u}>Not charged: {u}</li>
          ))}
        </ul>
      )}
      {view.reversed.map((r) => (
        <p className="muted small" key={r.number}>
          <a href={`/api/v1/invoices/${r.by}/invoice.pdf`} target="_blank" rel="noreferrer">
            {r.by}
          </a>{' '}
          took invoice{' '}
          <a href={`/api/v1/invoices/${r.number}/invoice.pdf`} target="_blank" rel="noreferrer">
            {r.number}
          </a>{' '}
          of {money(r.toPay, view.invoice.currency)} back: {r.reason}
        </p>
      ))}
      {may(order, 'take-payment') && view.open !== 0 && view.number && (
        <PayForm number={number} view={view} />
      )}
      {may(order, 'agree-extra') && <ExtraForm number={number} view={view} />}
      <Trouble error={make.error} />
      {may(order, 'make-invoice') && (
        <div>
          <button className="button" disabled={make.isPending} onClick={() => make.send(null)}>
            Make the invoice
          </button>
        </div>
      )}
      {may(order, 'reverse-invoice') && <ReverseForm number={number} />}
    </>
  )
}

function Table({ view }: { view: InvoiceView }) {
  const { invoice } = view
  const row = (what: string, amount: string) => (
    <tr key={what}>
      <td>{what}</td>
      <td className="num">{amount}</td>
    </tr>
  )
  return (
    <table className="slots-table quote-table">
      <tbody>
        {invoice.lines.map((l) => row(l.count > 1 ? `${l.count} × ${l.text}` : l.text, money(l.sum)))}
        {invoice.discount > 0 && row(`Discount, ${invoice.discountPercent} %`, `−${money(invoice.discount)}`)}
        {invoice.later.map((l) => row(l.text, money(l.sum)))}
        {invoice.taxPercent > 0 && row(`Tax, ${invoice.taxPercent} %`, money(invoice.tax))}
        <tr className="quote-total">
          <th scope="row">Total</th>
          <td className="num">
            <b>{money(invoice.total, invoice.currency)}</b>
          </td>
        </tr>
        {invoice.credits.map((c) => row(c.text, `−${money(c.sum)}`))}
        {view.payments.map((p) => (
          <tr key={p.at}>
            <td>
              {p.amount < 0 ? 'Paid out' : 'Paid'} {exactDay(p.at)}, {p.way}
              {p.note && `: ${p.note}`}
            </td>
            <td className="num">{p.amount < 0 ? money(-p.amount) : `−${money(p.amount)}`}</td>
          </tr>
        ))}
        <tr className="quote-total">
          <th scope="row">{left(view)}</th>
          <td className="num">
            <b>{money(Math.abs(view.open), invoice.currency)}</b>
          </td>
        </tr>
      </tbody>
    </table>
  )
}

const left = ({ number, open }: InvoiceView) =>
  number === null
    ? open < 0
      ? 'The shop would owe'
      : 'Would be left to pay'
    : open < 0
      ? 'The shop owes'
      : open === 0
        ? '✓ All is paid'
        : 'Still to pay'

function PayForm({ number, view }: { number: number; view: InvoiceView }) {
  const [amount, setAmount] = useState<number | string>(Math.abs(view.open))
  const [way, setWay] = useState<PaymentWay>('card')
  const [note, setNote] = useState('')
  const back = view.open < 0
  const pay = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/payments', {
      params: { path: { number }, header },
      body: { amount: back ? -Number(amount) : Number(amount), way, note: note || null },
    }),
  )
  return (
    <form className="form" onSubmit={submit(() => pay.send(null))}>
      <div className="invoice-fields">
        <NumberInput
          label={back ? 'Paid out' : 'Paid'}
          min={0}
          decimalScale={decimals(view.invoice.currency)}
          fixedDecimalScale
          value={amount}
          onChange={setAmount}
        />
        <NativeSelect
          label="How"
          data={['card', 'cash', 'transfer', 'other']}
          value={way}
          onChange={(e) => setWay(e.target.value as PaymentWay)}
        />
        <TextInput label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
      </div>
      <Trouble error={pay.error} />
      <div>
        <button className="button" disabled={!Number(amount) || pay.isPending}>
          Take it down
        </button>
      </div>
    </form>
  )
}

function ExtraForm({ number, view }: { number: number; view: InvoiceView }) {
  const [text, setText] = useState('')
  const [price, setPrice] = useState<number | string>('')
  const [customer, setCustomer] = useState('')
  const add = useChange(async (_: null, header) => {
    const done = await api.POST('/api/v1/orders/{number}/extras', {
      params: { path: { number }, header },
      body: { text, price: Number(price), customer },
    })
    setText('')
    setPrice('')
    return done
  })
  const drop = useChange(async (sequence: number, header) =>
    api.POST('/api/v1/orders/{number}/extras/{sequence}/drop', {
      params: { path: { number, sequence }, header },
    }),
  )
  return (
    <details className="invoice-extra">
      <summary>Extra work that was agreed beside the quote</summary>
      <ul className="plain">
        {view.extras.map((e) => (
          <li key={e.sequence} className="row">
            <span>
              {e.text}, {money(e.price)}, {e.customer}
            </span>
            <button className="button" disabled={drop.isPending} onClick={() => drop.send(e.sequence)}>
              Charge it not
            </button>
          </li>
        ))}
      </ul>
      <form className="form" onSubmit={submit(() => add.send(null))}>
        <div className="invoice-fields">
          <TextInput label="What is done" value={text} onChange={(e) => setText(e.target.value)} />
          <NumberInput
            label="Price without tax"
            min={0}
            decimalScale={decimals(view.invoice.currency)}
            value={price}
            onChange={setPrice}
          />
          <TextInput label="Who agreed" value={customer} onChange={(e) => setCustomer(e.target.value)} />
        </div>
        <Trouble error={add.error ?? drop.error} />
        <div>
          <button
            className="button"
            disabled={!text.trim() || !Number(price) || !customer.trim() || add.isPending}
          >
            Add it
          </button>
        </div>
      </form>
    </details>
  )
}

function ReverseForm({ number }: { number: number }) {
  const [reason, setReason] = useState('')
  const reverse = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/invoice/reverse', {
      params: { path: { number }, header },
      body: { reason },
    }),
  )
  return (
    <details className="invoice-extra">
      <summary>Take the invoice back</summary>
      <form className="form" onSubmit={submit(() => reverse.send(null))}>
        <TextInput label="Why" value={reason} onChange={(e) => setReason(e.target.value)} />
        <Trouble error={reverse.error} />
        <div>
          <button className="button" disabled={!reason.trim() || reverse.isPending}>
            Take it back
          </button>
        </div>
      </form>
    </details>
  )
}
