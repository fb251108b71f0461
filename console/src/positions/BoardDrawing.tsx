import type { BoardPoint, DriveBay, MemorySlot } from '../api/client'
import { across, boardMargin, down, placed, shift } from './plate'
import './positions.css'

type Props = {
  slots: MemorySlot[]
  bays: DriveBay[]
  /** The position that is meant now. */
  here?: string | null
  /** In which order hands go in. */
  order?: string[]
  /** The whole plate is drawn, also before anything has its place on it. */
  plate?: boolean
}

/** The board as it lies: each slot with its layer, label and notch, each bay; the one meant now stands out. */
export function BoardDrawing({ slots, bays, here, order = [], plate = false }: Props) {
  if (!plate && ![...slots, ...bays].some((p) => p.at)) return null
  // What lies below is drawn first, so that what lies over it covers it.
  const layered = [...slots].sort((a, b) => Number(b.below !== null) - Number(a.below !== null))
  return (
    <svg
      viewBox={plate ? `0 0 ${across} ${down}` : cropped(slots, bays)}
      className="board-drawing"
      role="img"
      aria-label={spoken(slots, bays, here)}
    >
      <rect x="2" y="2" width={across - 4} height={down - 4} rx="8" className="board-plate" />
      {bays.map((b) => b.at && <Bay key={b.id} bay={b} at={b.at} here={b.id === here} />)}
      {layered.map(
        (s) =>
          s.at && <Slot key={s.id} slot={s} at={s.at} here={s.id === here} hand={order.indexOf(s.id) + 1} />,
      )}
    </svg>
  )
}

// Half of what each takes, with its words.
const aroundSlot = (slot: MemorySlot) => (slot.turn === 90 ? { x: 26, y: 76 } : { x: 62, y: 40 })
const aroundBay = { x: 46, y: 44 }

/** What is on the board, and not the empty plate around it; as wide to high as the plate at most. */
function cropped(slots: MemorySlot[], bays: DriveBay[]): string {
  const taken = [
    ...slots.flatMap((s) => (s.at ? [{ at: s.at, half: aroundSlot(s) }] : [])),
    ...bays.flatMap((b) => (b.at ? [{ at: b.at, half: aroundBay }] : [])),
  ].map(({ at, half }) => ({ ...placed(at, boardMargin), half }))
  if (taken.length === 0) return `0 0 ${across} ${down}`
  const left = Math.max(0, Math.min(...taken.map((t) => t.x - t.half.x)))
  const top = Math.max(0, Math.min(...taken.map((t) => t.y - t.half.y)))
  const right = Math.min(across, Math.max(...taken.map((t) => t.x + t.half.x)))
  const bottom = Math.min(down, Math.max(...taken.map((t) => t.y + t.half.y)))
  return [left, top, right - left, bottom - top].map(Math.round).join(' ')
}

function Slot({ slot, at, here, hand }: { slot: MemorySlot; at: BoardPoint; here: boolean; hand: number }) {
  const upright = slot.turn === 90
  const long = upright ? 92 : 96
  return (
    <g
      transform={shift(at, boardMargin)}
      className={`board-slot ${here ? 'here' : ''} ${slot.below ? 'below' : ''} ${slot.soldered ? 'soldered' : ''}`}
    >
      <g transform={upright ? 'rotate(90)' : undefined}>
        <rect x={-long / 2} y="-11" width={long} height="22" rx="2" className="board-body" />
        {!slot.soldered && <path d={`M${-long * 0.22} 11v-8h8v8`} className="board-notch" />}
      </g>
      <text y={upright ? -long / 2 - 6 : 5} className="board-name">
        {slot.id}
      </text>
      {/* Upright ones stand side by side: what is printed beside them runs along them. */}
      {upright && slot.label && (
        <text transform="rotate(-90)" y="4" className="board-sub">
          {shortened(slot.label)}
        </text>
      )}
      {(slot.below ?? (!upright && slot.label)) && (
        <text y={upright ? long / 2 + 14 : 26} className="board-sub">
          {[slot.below && `under ${slot.below}`, !upright && slot.label && shortened(slot.label)]
            .filter(Boolean)
            .join(', ')}
        </text>
      )}
      {hand > 0 && (
        <g
          transform={`translate(${upright ? 0 : -long / 2} ${upright ? long / 2 : 0})`}
          className="board-hand"
        >
          <circle r="11" />
          <text y="5">{hand}</text>
        </g>
      )}
    </g>
  )
}

// Beside its slot there is room for a word or two.
const shortened = (label: string) => (label.length > 18 ? `${label.slice(0, 17)}…` : label)

function Bay({ bay, at, here }: { bay: DriveBay; at: BoardPoint; here: boolean }) {
  const wide = bay.form?.startsWith('M.2') ? 62 : 44
  const high = bay.form?.startsWith('M.2') ? 20 : 36
  return (
    <g transform={shift(at, boardMargin)} className={`board-bay ${here ? 'here' : ''}`}>
      <rect x={-wide / 2} y={-high / 2} width={wide} height={high} rx="3" className="board-body" />
      <text y="5" className="board-name">
        {bay.id}
      </text>
      {bay.boots && (
        <text y={high / 2 + 14} className="board-sub">
          boots
        </text>
      )}
    </g>
  )
}

const spoken = (slots: MemorySlot[], bays: DriveBay[], here: string | null | undefined) =>
  [
    ...slots.map((s) => `slot ${s.id}${s.below ? ` under ${s.below}` : ''}${s.soldered ? ', soldered' : ''}`),
    ...bays.map((b) => `bay ${b.id}${b.boots ? ', boots' : ''}`),
    here ? `now ${here}` : '',
  ]
    .filter(Boolean)
    .join('; ')
