import { Link } from '@tanstack/react-router'
import type { OrderView } from '../api/client'
import type { Part } from './orderParts'

/** What to do now, whatever else is open, and the way to where it is done. */
export function Now({ order, parts }: { order: OrderView; parts: Part[] }) {
  const part = parts.find((p) => p.state === 'now')
  if (order.next.kind === 'none') return null
  return (
    <p className="now-bar">
      <span>
        <span className="muted small">Now</span> <b>{order.next.text}</b>
      </span>
      {order.next.kind === 'run' ? (
        <Link to="/orders/$number/run" params={{ number: String(order.number) }} className="button">
          To the run
        </Link>
      ) : (
        part && (
          <a href={`#${part.id}`} className="button">
            To “{part.title}”
          </a>
        )
      )}
    </p>
  )
}
