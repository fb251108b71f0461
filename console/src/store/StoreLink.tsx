import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { storeQuery } from '../api/queries'

/** The way to the store, for leads; marked where something is amiss with its backups. */
export function StoreLink() {
  const store = useQuery({ ...storeQuery, refetchInterval: 5 * 60_000 })
  const amiss = (store.data?.warnings.length ?? 0) > 0
  return (
    <Link to="/store" className="small store-link" title={store.data?.warnings.join(' ')}>
      Store {amiss && <b className="tag">!</b>}
    </Link>
  )
}
