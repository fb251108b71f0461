import { useInfiniteQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { invoicesQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { exactDay, money } from '../words'
import './invoice.css'

/** Every number of the shop's invoices, for its book-keeping. */
export function Invoices() {
  useTitle('Invoices')
  const list = useInfiniteQuery(invoicesQuery)
  if (!list.data) return <Waiting error={list.error} />
  const all = items(list)
  return (
    <div className="page stack">
      <div className="row">
        <h1>Invoices</h1>
        {all.length > 0 && (
          <a className="button" href="/api/v1/invoices/invoices.jsonl" download>
            All as JSON Lines
          </a>
        )}
      </div>
      <section className="sheet stack">
        {all.length === 0 && (
          <p className="muted">None yet. An invoice is made on the page of an order that is ready.</p>
        )}
        {all.length > 0 && (
          <table className="slots-table invoice-list">
            <thead>
              <tr>
                <th scope="col">No.</th>
                <th scope="col" className="wide">
                  Day
                </th>
                <th scope="col">Order</th>
                <th scope="col">Customer</th>
                <th scope="col" className="num wide">
                  Net
                </th>
                <th scope="col" className="num wide">
                  Tax
                </th>
                <th scope="col" className="num">
                  To pay
                </th>
                <th scope="col" className="num wide">
                  Paid
                </th>
                <th scope="col">State</th>
              </tr>
            </thead>
            <tbody>
              {all.map((i) => (
                <tr key={i.number}>
                  <td>
                    <a href={`/api/v1/invoices/${i.number}/invoice.pdf`} target="_blank" rel="noreferrer">
                      {i.number}
                    </a>
                  </td>
                  <td className="wide">{exactDay(i.at)}</td>
                  <td>
                    <Link to="/orders/$number" params={{ number: String(i.order) }} className="mono">
                      {i.order}
                    </Link>
                  </td>
                  <td>{i.customer}</td>
                  <td className="num wide">{money(i.net)}</td>
                  <td className="num wide">{money(i.tax)}</td>
                  <td className="num">{money(i.toPay, i.currency)}</td>
                  <td className="num wide">{money(i.paid)}</td>
                  <td>{state(i)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <More list={list} />
      </section>
    </div>
  )
}

const state = (i: { reverses: number | null; reversedBy: number | null; toPay: number; paid: number }) =>
  i.reverses !== null
    ? `takes ${i.reverses} back`
    : i.reversedBy !== null
      ? `taken back by ${i.reversedBy}`
      : i.paid === i.toPay
        ? '✓ paid'
        : 'open'
