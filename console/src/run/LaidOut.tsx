import type { RunStep } from '../api/client'
import { Tip } from './Tip'
import './laid-out.css'

type Group = RunStep['trays'][number]

// A millimetre of a screw, drawn.
const scale = 9
const longest = 16
const head = { width: 8, half: 9 }
const shaft = 4

/** What lies on the mat before anything is opened: bits by their tips, and a tray for each kind of screw. */
export function LaidOut({ bits, trays }: { bits: string[]; trays: Group[] }) {
  return (
    <div className="laid-out">
      <ul className="bits" aria-label="Bits">
        {bits.map((bit) => (
          <li key={bit}>
            <Tip bit={bit} />
            <b className="mono">{bit}</b>
          </li>
        ))}
      </ul>
      <ul className="trays" aria-label="Trays">
        {trays.map((group, i) => (
          <li key={`${group.group} ${i}`}>
            <span>
              <b className="mono">{group.count}</b> × {group.group}
            </span>
            <span className="muted">
              {group.length === null ? 'length not told' : `${group.length} mm`} · {group.driver}
            </span>
            <span className="screws">
              {Array.from({ length: group.count }, (_, n) => (
                <Screw key={n} length={group.length} />
              ))}
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}

/** From the side, as long as it is; one whose length nobody told is drawn open at its end. */
function Screw({ length }: { length: number | null }) {
  const long = Math.min(length ?? 6, longest) * scale
  const width = head.width + long + 2
  return (
    <svg viewBox={`0 0 ${width} 22`} style={{ width: `${width / 20}em`, height: '1.1em' }} aria-hidden="true">
      <rect x={1} y={11 - head.half} width={head.width} height={2 * head.half} rx={2} className="head" />
      <path
        d={`M${1 + head.width} ${11 - shaft}H${width - 3}l3 ${shaft}-3 ${shaft}H${1 + head.width}Z`}
        className={length === null ? 'shaft open' : 'shaft'}
      />
    </svg>
  )
}
