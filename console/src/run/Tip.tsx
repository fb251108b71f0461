// Points round a middle of 20, turned so that one looks up; every second one further in makes a star.
function round(count: number, outer: number, inner = outer) {
  const all = inner === outer ? count : 2 * count
  const points = Array.from({ length: all }, (_, i) => {
    const radius = i % 2 === 0 ? outer : inner
    const turn = (i / all) * 2 * Math.PI - Math.PI / 2
    return `${(20 + radius * Math.cos(turn)).toFixed(1)} ${(20 + radius * Math.sin(turn)).toFixed(1)}`
  })
  return `M${points.join('L')}Z`
}

const cross = 'M17 8h6v9h9v6h-9v9h-6v-9h-9v-6h9Z'

// What a bit's tip looks like from the front, by the letters of its name.
const tips: Record<string, string> = {
  PH: cross,
  PZ: `${cross}M10 10l20 20M30 10l-20 20`,
  T: round(6, 13, 8),
  TR: `${round(6, 13, 8)}M20 17a3 3 0 1 0 .1 0Z`,
  H: round(6, 12),
  SL: 'M7 17h26v6H7Z',
  P: round(5, 13, 7),
  Y: round(3, 13, 4),
}

/** A bit from the front; a name that is not known is a plain ring. */
export function Tip({ bit }: { bit: string }) {
  return (
    <svg viewBox="0 0 40 40" className="tip" aria-hidden="true">
      <circle cx={20} cy={20} r={18} />
      <path d={tips[bit.replace(/[\d.]+$/, '')] ?? ''} fillRule="evenodd" />
    </svg>
  )
}
