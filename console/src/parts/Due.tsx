import { useQuery } from '@tanstack/react-query'
import { shopQuery } from '../api/queries'
import { clock, useLeft } from '../run/Countdown'
import { moment } from '../words'

/** When time will have ended something: a time of day, with what is left behind it. */
export function Due({ at, label }: { at: string; label?: string }) {
  const zone = useQuery(shopQuery).data?.zone
  const left = useLeft(at)
  const when = moment(at, zone)
  return (
    <span className="countdown" role="timer" aria-label={`${label ?? 'done'} at about ${when}`}>
      {label && <span>{label} </span>}
      <b className="mono">{when}</b>{' '}
      <span className="muted mono">{left > 0 ? `${clock(left)} left` : 'over: read it again'}</span>
    </span>
  )
}
