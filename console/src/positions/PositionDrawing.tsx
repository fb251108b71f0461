import { useId } from 'react'
import type { PositionView } from '../api/client'
import { size } from '../words'
import './positions.css'

/** A column's and the margin's width in the drawing's own units. */
export const roomy = { column: 132, label: 64 }
const compact = { column: 84, label: 60 }
type Scale = typeof roomy

type Held = { spoken: string; module: { size: number } | null } | null

/** What is drawn of a slot. */
export type Drawn = {
  slot: Pick<PositionView['slot'], 'id'> &
    Partial<Pick<PositionView['slot'], 'channel' | 'below' | 'soldered'>>
  before: Held
  planned: {
    use: string
    from: string | null
    stays: boolean
    module: { size: number } | null
    before: { known: boolean }
  } | null
  after: Held
  match: PositionView['match']
}
const height = 40
const tops = { before: 44, planned: 116, after: 188 }
const bottom = 240

/**
 * The slots in the order in which they lie on the board: before hollow, planned hatched, after solid.
 * A plain line joins what stayed; where planned and after disagree the slot shouts.
 * Compact fits beside other things.
 */
export function PositionDrawing(props: { positions: Drawn[]; compact?: boolean; here?: string | null }) {
  const { positions, here } = props
  const scale = props.compact ? compact : roomy
  const perRow = 4
  const largest = Math.max(
    1,
    ...positions.flatMap((p) => [bytes(p.before), bytes(p.planned), bytes(p.after)]),
  )
  const rows = Array.from({ length: Math.ceil(positions.length / perRow) }, (_, i) =>
    positions.slice(i * perRow, (i + 1) * perRow),
  )
  return (
    <div className="drawing" role="img" aria-label={spoken(positions)}>
      {rows.map((row) => (
        <Rows
          key={row[0]!.slot.id}
          row={row}
          columns={rows.length > 1 ? perRow : row.length}
          largest={largest}
          scale={scale}
          here={here}
        />
      ))}
    </div>
  )
}

function Rows(props: {
  row: Drawn[]
  columns: number
  largest: number
  scale: Scale
  here: string | null | undefined
}) {
  const { row, columns, largest, scale, here } = props
  const { label, column } = scale
  const hatch = useId()
  return (
    <svg
      viewBox={`0 0 ${label + columns * column} ${bottom}`}
      style={{ maxWidth: (label + columns * column) * 1.5 }}
      aria-hidden="true"
    >
      <defs>
        <pattern id={hatch} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" className="hatch-ground" />
          <line x1="0" y1="0" x2="0" y2="7" className="hatch-line" />
        </pattern>
      </defs>
      {(['before', 'planned', 'after'] as const).map((name) => (
        <text key={name} x={0} y={tops[name] + height / 2 + 5} className="drawing-row">
          {name}
        </text>
      ))}
      {row.map((p, i) => (
        <Slot
          key={p.slot.id}
          p={p}
          x={label + i * column}
          row={row}
          largest={largest}
          hatch={`url(#${hatch})`}
          scale={scale}
          here={p.slot.id === here}
        />
      ))}
    </svg>
  )
}

function Slot(props: {
  p: Drawn
  x: number
  row: Drawn[]
  largest: number
  hatch: string
  scale: Scale
  here: boolean
}) {
  const { p, x, row, largest, hatch, scale, here } = props
  const { label, column } = scale
  const middle = x + column / 2
  const off = isOff(p)
  const source = p.planned?.use === 'move' ? row.findIndex((r) => r.slot.id === p.planned?.from) : -1
  const cells = [
    { top: tops.before, kind: 'hollow', text: p.before?.spoken, amount: bytes(p.before), fill: 'none' },
    { top: tops.planned, kind: 'hatched', text: plannedText(p), amount: bytes(p.planned), fill: hatch },
    { top: tops.after, kind: 'solid', text: p.after?.spoken, amount: bytes(p.after), fill: undefined },
  ]
  return (
    <g>
      {here && <rect x={x + 2} y={1} width={column - 4} height={bottom - 3} rx={4} className="here" />}
      <text x={middle} y={18} className="drawing-slot">
        {p.slot.id}
      </text>
      <text x={middle} y={34} className="drawing-sub">
        {underName(p, scale === compact)}
      </text>
      {p.planned && p.planned.stays && p.planned.module && p.before?.module && (
        <line x1={middle} x2={middle} y1={tops.before + height} y2={tops.planned} className="stays" />
      )}
      {source >= 0 && (
        <line
          x1={label + source * column + column / 2}
          x2={middle}
          y1={tops.before + height}
          y2={tops.planned}
          className="stays"
        />
      )}
      {p.planned?.module && p.after && p.match === 'same' && (
        <line x1={middle} x2={middle} y1={tops.planned + height} y2={tops.after} className="stays" />
      )}
      {cells.map((cell) => (
        <Cell
          key={cell.kind}
          {...cell}
          middle={middle}
          largest={largest}
          column={column}
          loud={off && cell.kind === 'solid'}
        />
      ))}
      {off && (
        <text x={middle} y={tops.after - 9} className="drawing-off">
          ≠
        </text>
      )}
    </g>
  )
}

function Cell(props: {
  middle: number
  top: number
  kind: string
  text: string | null | undefined
  amount: number
  fill: string | undefined
  largest: number
  column: number
  loud: boolean
}) {
  const { middle, top, kind, text, amount, fill, largest, column, loud } = props
  const full = column - 16
  if (!text) return <circle cx={middle} cy={top + height / 2} r={2} className="nothing-yet" />
  if (amount === 0) {
    return (
      <g className={loud ? 'loud' : undefined}>
        <rect x={middle - full / 2} y={top} width={full} height={height} rx={4} className="empty-slot" />
        <text x={middle} y={top + height / 2 + 5} className="empty-text">
          {loud ? 'not seen' : text}
        </text>
      </g>
    )
  }

  // Width by capacity, but never too narrow to read.
  const width = Math.max(full * 0.6, 56, full * Math.sqrt(amount / largest))
  const [left, right] = [middle - width / 2, middle + width / 2]
  const notch = left + width * 0.24
  const outline = [
    `M${left + 3} ${top}H${right - 3}q3 0 3 3V${top + height}`,
    `H${notch + 8}v-6h-8v6H${left}V${top + 3}q0-3 3-3Z`,
  ].join('')
  return (
    <g className={loud ? 'loud' : undefined}>
      <path d={outline} className={`module ${kind}`} fill={fill} />
      {kind === 'hatched' && (
        <rect x={middle - 27} y={top + 9} width={54} height={21} rx={3} className="hatch-plate" />
      )}
      <text x={middle} y={top + height / 2 + 5} className={`module-text ${kind}`}>
        {text}
      </text>
    </g>
  )
}

function underName({ slot }: Drawn, short: boolean): string {
  const channel = slot.channel ? (short ? slot.channel : `channel ${slot.channel}`) : ''
  return [channel, slot.below && `under ${slot.below}`, slot.soldered && 'soldered']
    .filter(Boolean)
    .join(', ')
}

const bytes = (content: { module: { size: number } | null } | null) => content?.module?.size ?? 0

export const isOff = (p: Pick<Drawn, 'match'>) =>
  p.match === 'missing' || p.match === 'different' || p.match === 'unplanned'

function plannedText(p: Drawn): string | undefined {
  if (!p.planned) return undefined
  if (p.planned.module) return size(p.planned.module.size)
  return p.planned.stays && !p.planned.before.known ? 'unknown' : 'empty'
}

/** The drawing in words, for those who do not see it. */
export function spoken(positions: Drawn[]): string {
  return positions
    .map((p) => {
      const parts = [
        p.before && `before ${p.before.spoken}`,
        p.planned && `planned ${plannedText(p)}`,
        p.after && `after ${p.after.spoken}`,
        isOff(p) && 'not as planned',
      ]
      return `${p.slot.id}: ${parts.filter(Boolean).join(', ') || 'nothing read yet'}`
    })
    .join('; ')
}
