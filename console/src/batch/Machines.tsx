import { Link } from '@tanstack/react-router'
import type { BatchMachineView } from '../api/client'
import { VerdictMark } from '../parts/VerdictMark'
import { Miniature } from '../positions/Miniature'
import { money, size, spoken } from '../words'

/** The machines side by side, each with its three rows. */
export function Machines({ machines }: { machines: BatchMachineView[] }) {
  return (
    <ul className="machines">
      {machines.map((m) => (
        <li key={m.card.number}>
          <Link to="/orders/$number" params={{ number: String(m.card.number) }} className="card machine">
            <span className="card-top">
              <b className="card-number mono">{m.card.number}</b>
              <span className="small">{spoken(m.card.stage)}</span>
            </span>
            <span className="mono small wraps">{m.serial}</span>
            <Miniature slots={m.card.slots} />
            <span className="card-slots small">
              <span>
                {m.before === null ? 'not measured' : size(m.before)}
                {m.after !== null && <b> → {size(m.after)}</b>}
              </span>
              <VerdictMark verdict={m.card.verdict} />
            </span>
            {m.plan && <span className="small">{m.plan}</span>}
            <span className="small muted card-top">
              <span>{m.card.owner ?? 'nobody yet'}</span>
              {m.total !== null && <span className="num">{money(m.total)}</span>}
            </span>
            {(m.card.holds ?? []).map((h) => (
              <b key={h.word} className="tag small">
                {h.word}
              </b>
            ))}
          </Link>
        </li>
      ))}
    </ul>
  )
}
