import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useCallback, useSyncExternalStore } from 'react'
import type { OrderView } from '../api/client'
import { useTitle } from '../parts/title'
import { useSaid } from './queue'
import { SaidLine } from './SaidLine'
import { theStore, type Said } from './store'
import { WhenSaid } from './WhenSaid'
import './away.css'

const asideQuery = {
  queryKey: ['aside'],
  queryFn: async () => (await (await theStore()).store?.getAll('aside')) ?? [],
  networkMode: 'always' as const,
}

/** What this screen keeps: what was said here and is not taken yet, and the orders that open without a network. */
export function KeptPage() {
  useTitle('Kept here')
  const { said, damaged, keeps, again, drop } = useSaid()
  const aside = useQuery(asideQuery).data ?? []
  const refused = said.filter((s) => s.refused)
  const waiting = said.filter((s) => !s.refused)
  return (
    <div className="page stack">
      <h1>Kept on this screen</h1>
      {!keeps && (
        <p className="trouble" role="alert">
          This browser keeps nothing: what is said here and not sent is lost with the page. Do not close it
          while something is on its way.
        </p>
      )}
      {damaged && keeps && (
        <p className="trouble" role="alert">
          What was kept here before could not be opened and was set aside in this browser’s data. Whatever was
          said without a network and is missing on its order has to be said again.
        </p>
      )}
      <section className="sheet stack" aria-labelledby="not-taken">
        <h2 id="not-taken">Not taken</h2>
        {refused.length === 0 && <p className="muted">Nothing was refused.</p>}
        {refused.length > 1 && (
          <div>
            <button className="button" onClick={() => refused.forEach((s) => again(s.key))}>
              Send all again
            </button>
          </div>
        )}
        {refused.map((s) => (
          <Line key={s.key} said={s}>
            <button className="button" onClick={() => again(s.key)}>
              Send again
            </button>
            <button className="button" onClick={() => drop(s.key)}>
              Drop it
            </button>
          </Line>
        ))}
      </section>
      <section className="sheet stack" aria-labelledby="on-its-way">
        <h2 id="on-its-way">On its way</h2>
        {waiting.length === 0 && <p className="muted">Nothing that was said here waits to be sent.</p>}
        {waiting.map((s) => (
          <Line key={s.key} said={s} />
        ))}
      </section>
      {aside.length > 0 && (
        <section className="sheet stack" aria-labelledby="set-aside">
          <h2 id="set-aside">Set aside</h2>
          <p>
            {aside.length} that was kept here could not be understood. Nothing of it was sent; this is what is
            left of it.
          </p>
          {aside.map((value, i) => (
            <pre key={i} className="mono small">
              {JSON.stringify(value)}
            </pre>
          ))}
        </section>
      )}
      <KeptOrders />
    </div>
  )
}

function Line({ said, children }: { said: Said; children?: React.ReactNode }) {
  return (
    <div className="row kept-line">
      <Link to="/orders/$number" params={{ number: String(said.order) }} className="num">
        {said.order}
      </Link>
      <SaidLine said={said} />
      {children}
    </div>
  )
}

/** The orders that this screen keeps, as they come. */
function useKeptOrders() {
  const cache = useQueryClient().getQueryCache()
  const whole = () =>
    cache.findAll({ queryKey: ['order'] }).filter((q) => q.queryKey.length === 2 && q.state.data)
  // A text stays the same while nothing came.
  useSyncExternalStore(
    useCallback((changed) => cache.subscribe(changed), [cache]),
    () =>
      whole()
        .map((q) => `${q.queryHash} ${q.state.dataUpdatedAt}`)
        .join(),
  )
  return whole()
    .map((q) => ({ order: q.state.data as OrderView, at: q.state.dataUpdatedAt }))
    .sort((a, b) => a.order.number - b.order.number)
}

function KeptOrders() {
  const orders = useKeptOrders()
  return (
    <section className="sheet stack" aria-labelledby="kept-orders">
      <h2 id="kept-orders">Opens without a network</h2>
      {orders.length === 0 && (
        <p className="muted">No order yet: what is in the hands of whoever works here comes by itself.</p>
      )}
      <table className="slots-table">
        <tbody>
          {orders.map(({ order, at }) => (
            <tr key={order.number}>
              <td>
                <Link className="mono" to="/orders/$number" params={{ number: String(order.number) }}>
                  {order.number}
                </Link>
              </td>
              <td>
                {order.model.maker} {order.model.name}
              </td>
              <td>{order.owner}</td>
              <td className="muted">
                fetched <WhenSaid at={at} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
