import { useQuery } from '@tanstack/react-query'
import { shopQuery } from '../api/queries'
import { clock, useLeft } from '../run/Countdown'
import { moment } from '../words'

const day = 24 * 3600

// Seconds matter within the hour, days beyond two of them.
const remaining = (seconds: number) =>
  seconds < 3600
    ? clock(seconds)
    : seconds < 2 * day
      ? `${Math.round(seconds / 3600)} h`
      : `${Math.round(seconds / day)} days`

/** When time will have ended something: a time of day, with what is left behind it. */
export function Due({ at, label }: { at: string; label?: string }) {
  const zone = useQuery(shopQuery).data?.zone
  const left = useLeft(at)
  const when = moment(at, zone)
  return (
    <span className="due" role="timer" aria-label={`${label ?? 'done'} at about ${when}`}>
      {label && <span>{label} </span>}
      <b className="mono">{when}</b>{' '}
      <span className="muted">{left > 0 ? `${remaining(left)} left` : 'over: look again'}</span>
    </span>
  )
}
