type Baseline = { count: number; least: number; lower: number; median: number; upper: number; most: number }

/**
 * A strip of quartiles: hollow from least to most, hatched between the quartiles, a line at the median,
 * solid where this one stands.
 */
export function Quartiles({
  of,
  at,
  unit,
  place,
  model,
}: {
  of: Baseline
  at: number | null
  unit: string
  place: number | null
  /** Which others: the model's code. */
  model: string
}) {
  const low = Math.min(of.least, at ?? of.least)
  const span = Math.max(of.most, at ?? of.most) - low || 1
  const x = (v: number) => 4 + (152 * (v - low)) / span
  const where = place === null ? '' : `; place ${place} of ${of.count + 1}`
  const half = `middle half ${of.lower} to ${of.upper} ${unit}, median ${of.median}`
  const words = `${of.count} other ${model}: ${half}${where}`
  return (
    <span className="quartiles" title={words}>
      <svg width="160" height="20" role="img" aria-label={words}>
        <rect
          x={x(of.least)}
          y="6"
          width={Math.max(1, x(of.most) - x(of.least))}
          height="8"
          className="strip"
        />
        <rect
          x={x(of.lower)}
          y="3"
          width={Math.max(1, x(of.upper) - x(of.lower))}
          height="14"
          className="middle"
        />
        <line x1={x(of.median)} x2={x(of.median)} y1="1" y2="19" className="median" />
        {at !== null && <circle cx={x(at)} cy="10" r="4" className="here" />}
      </svg>
      {place !== null && (
        <span className="small">
          place {place} of {of.count + 1} {model}
        </span>
      )}
    </span>
  )
}
