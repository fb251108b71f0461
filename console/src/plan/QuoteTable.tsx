import type { Quote } from '../api/client'
import { money } from '../words'
import './plan.css'

/** What it costs, line by line. */
export function QuoteTable({ quote }: { quote: Quote }) {
  return (
    <>
      <table className="slots-table quote-table">
        <tbody>
          {quote.lines.map((l) => (
            <tr key={l.text}>
              <td>
                {l.count > 1 && <span className="mono">{l.count} × </span>}
                {l.text}
              </td>
              <td className="num">{l.each === null ? 'to be told' : money(l.sum)}</td>
            </tr>
          ))}
          {quote.discount > 0 && (
            <tr>
              <td>Discount, {quote.discountPercent} %</td>
              <td className="num">−{money(quote.discount)}</td>
            </tr>
          )}
          {quote.taxPercent > 0 && (
            <tr>
              <td>Tax, {quote.taxPercent} %</td>
              <td className="num">{money(quote.tax)}</td>
            </tr>
          )}
          <tr className="quote-total">
            <th scope="row">Total</th>
            <td className="num">
              <b>{money(quote.total, quote.currency)}</b>
            </td>
          </tr>
        </tbody>
      </table>
      {quote.compared && (
        <ul className="plain small muted">
          {quote.compared.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
      )}
    </>
  )
}
