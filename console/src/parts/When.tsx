import { useQuery } from '@tanstack/react-query'
import { shopQuery } from '../api/queries'
import { ago, exact } from '../words'

/** A time: relative under a day, exact on hover, in the bench's zone. */
export function When({ at }: { at: string }) {
  const zone = useQuery(shopQuery).data?.zone
  return (
    <time dateTime={at} title={exact(at, zone)}>
      {ago(at, zone)}
    </time>
  )
}
