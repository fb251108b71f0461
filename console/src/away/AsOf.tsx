import { useQuery } from '@tanstack/react-query'
import { useConnected } from '../api/live'
import { shopQuery } from '../api/queries'
import { moment } from '../words'

/** How old what stands here is, while the service cannot be asked; nothing while it can. */
export function AsOf({ at }: { at: number }) {
  const zone = useQuery(shopQuery).data?.zone
  if (useConnected()) return null
  return <span className="as-of">as of {moment(new Date(at).toISOString(), zone)}</span>
}
