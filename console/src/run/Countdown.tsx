import { useEffect, useState } from 'react'
import { serverNow } from '../api/clock'

const two = (n: number) => String(n).padStart(2, '0')

/** Minutes and seconds. */
export const clock = (seconds: number) =>
  seconds >= 3600
    ? `${Math.floor(seconds / 3600)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`
    : `${Math.floor(seconds / 60)}:${two(seconds % 60)}`

/** Seconds left until a moment of the service's clock. */
export function useLeft(until: string | number) {
  const end = typeof until === 'number' ? until : Date.parse(until)
  const [now, setNow] = useState(serverNow)
  useEffect(() => {
    const timer = setInterval(() => setNow(serverNow()), 500)
    return () => clearInterval(timer)
  }, [])
  return Math.max(0, Math.ceil((end - now) / 1000))
}

/** A clock that runs down, the same on every screen. */
export function Countdown({ until, label }: { until: string | number; label: string }) {
  const seconds = useLeft(until)
  return (
    <span className="countdown" role="timer" aria-label={`${label}, ${clock(seconds)} left`}>
      <span className="muted">{label}</span> <b className="mono">{seconds > 0 ? clock(seconds) : 'over'}</b>
    </span>
  )
}

/** A clock that a hand starts: how long a button is held. */
export function HandTimer({ seconds }: { seconds: number }) {
  const [until, setUntil] = useState<number | null>(null)
  return (
    <button className="button hand-timer" onClick={() => setUntil(serverNow() + seconds * 1000)}>
      {until === null ? `Count ${clock(seconds)}` : <Running until={until} />}
    </button>
  )
}

function Running({ until }: { until: number }) {
  const seconds = useLeft(until)
  return <b className="mono">{seconds > 0 ? clock(seconds) : '✓ over'}</b>
}

/** What is left of a step's time, large; the words for when it is over. */
export function LeftClock({ until, over }: { until: number; over: string }) {
  const left = useLeft(until)
  return (
    <p className="cooling" role="timer">
      {left > 0 ? (
        <>
          <b className="mono">{clock(left)}</b> left
        </>
      ) : (
        over
      )}
    </p>
  )
}
