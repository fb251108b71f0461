import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, type BackupMade, type StoreView } from '../api/client'
import { storeQuery } from '../api/queries'
import { Name } from '../people/Name'
import { Trouble, Waiting } from '../parts/Trouble'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import { counted, stored } from '../words'
import { StoreLook } from './StoreLook'
import './store.css'

/** Where the shop's data lies, what works on it, its backups, and whether it is what was recorded. */
export function StorePage() {
  useTitle('Store')
  const store = useQuery(storeQuery)
  if (!store.data) return <Waiting error={store.error} />
  return (
    <div className="page stack store-page">
      <h1>Store</h1>
      {store.data.warnings.map((warning) => (
        <p key={warning} className="verdict remark" role="status">
          ! {warning}
        </p>
      ))}
      <Lies store={store.data} />
      <Backups store={store.data} />
      <StoreLook />
    </div>
  )
}

function Lies({ store }: { store: StoreView }) {
  const { head } = store
  return (
    <section className="sheet stack" aria-labelledby="lies">
      <h2 id="lies">Where it lies</h2>
      <p>
        <span className="place">{store.place}</span>, {counted(store.position, 'entry', 'entries')}
        {store.room !== null && <>; {stored(store.room)} free</>}
      </p>
      {head && (
        <p className="muted">
          Until the end of {head.day} {counted(head.position, 'entry', 'entries')}, in one hash signed by the
          shop: <span className="mono place">{head.hash}</span>
        </p>
      )}
      {store.deadMessages > 0 && (
        <p className="trouble">
          {counted(store.deadMessages, 'message', 'messages')} to other programs given up.
        </p>
      )}
      <ul className="store-list">
        {store.instances.map((i) => (
          <li key={`${i.name} ${i.beganAt}`}>
            <span className="mono place">{i.name}</span>
            <span className="muted">
              Revtal {i.version}, since <When at={i.beganAt} />, seen <When at={i.seenAt} />; its screens were
              told of {i.position} of {store.position}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Backups({ store }: { store: StoreView }) {
  const client = useQueryClient()
  const make = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/shop/store/backups')).data!,
    onSuccess: () => client.invalidateQueries({ queryKey: storeQuery.queryKey }),
  })
  const runs = store.backups.some((b) => !b.endedAt)
  return (
    <section className="sheet stack" aria-labelledby="backups">
      <h2 id="backups">Backups</h2>
      <p className="muted">
        {store.plan
          ? `One every ${store.plan.everyHours === 1 ? 'hour' : `${store.plan.everyHours} hours`}, ` +
            `read back and proved; ${store.plan.keep} are kept.`
          : 'The service makes none by itself: it was started without a folder for them.'}{' '}
        They hold what opens everybody’s sign-in: keep them as you would keep that.
      </p>
      <ul className="store-list">
        {store.backups.map((b) => (
          <li key={b.beganAt}>
            <Came of={b} />
            <span className="muted">
              <When at={b.beganAt} />, {b.by ? <Name id={b.by} /> : 'by itself'}
            </span>
          </li>
        ))}
      </ul>
      <div className="row">
        {store.plan && (
          <button className="button" disabled={runs || make.isPending} onClick={() => make.mutate()}>
            {runs ? 'Making one…' : 'Make one now'}
          </button>
        )}
        <a className="button" href="/api/v1/shop/store/backup" download>
          Take one away
        </a>
        <a className="button" href="/api/v1/shop/store/backup?form=tables" download>
          Take it away as CSV
        </a>
      </div>
      <Trouble error={make.error} />
    </section>
  )
}

function Came({ of: b }: { of: BackupMade }) {
  if (b.trouble) return <span className="verdict short">✗ {b.trouble}</span>
  if (!b.endedAt) return <span>{b.rows} rows so far</span>
  if (!b.file) return <span>taken away: {b.rows} rows</span>
  return (
    <span>
      {b.faults > 0 ? (
        <span className="verdict remark">! {counted(b.faults, 'fault', 'faults')} of the store in it</span>
      ) : (
        <span className="verdict as-planned">✓ {counted(b.orders ?? 0, 'order', 'orders')} proved</span>
      )}
      , {stored(b.bytes)} <span className="mono place">{b.file}</span>
    </span>
  )
}
