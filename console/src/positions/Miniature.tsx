import type { OrderCard } from '../api/client'
import { size } from '../words'
import './positions.css'

type Row = 'before' | 'planned' | 'after'

/** The three rows of a card's slots, too small for numbers. */
export function Miniature({ slots }: { slots: OrderCard['slots'] }) {
  const rows = (['before', 'planned', 'after'] as Row[]).filter((row) => slots.some((s) => s[row] !== null))
  const total = (row: Row) => slots.reduce((sum, s) => sum + (s[row] ?? 0), 0)
  return (
    <div
      className="miniature"
      role="img"
      aria-label={rows.map((row) => `${row} ${size(total(row))}`).join(', ') || 'nothing read yet'}
    >
      {rows.map((row) => (
        <span key={row} className={row}>
          {slots.map((s) => (
            <i key={s.slot} className={mark(s, row)} />
          ))}
        </span>
      ))}
    </div>
  )
}

function mark(slot: OrderCard['slots'][number], row: Row) {
  if (row === 'after' && slot.planned !== null && slot.after !== null && slot.planned !== slot.after)
    return 'off'
  return slot[row] ? 'on' : 'none'
}
