import type { BoardPoint, FastenerGroup, FastenerShape, RunStep } from '../api/client'
import { across, coverMargin, down, pressed, shift } from '../positions/plate'
import './run.css'

// Groups differ by shape as well as by place and name; which group has which, the guide says.
const outlines: Record<FastenerShape, string> = {
  circle: 'M0-11A11 11 0 1 0 0 11A11 11 0 1 0 0-11Z',
  square: 'M-10-10H10V10H-10Z',
  triangle: 'M0-13L12 9H-12Z',
  diamond: 'M0-13L13 0L0 13L-13 0Z',
}

type Props = Pick<RunStep, 'shapes'> & {
  fasteners: Omit<FastenerGroup, 'byHand' | 'exactFit' | 'order'>[]
} & Partial<Pick<RunStep, 'clips' | 'pry' | 'face'>> & {
    /** Which fasteners are counted, by “group/number” from 1; none where the cover is only shown. */
    counted?: ReadonlySet<string>
    /** Whether counted means out of its hole, or back in it. */
    way?: 'open' | 'close'
    onToggle?: (hole: string) => void
    /** The hash of a photograph that lies under the holes. */
    photo?: string | null
    /** A place was pressed that is no hole yet. */
    onPress?: (at: BoardPoint) => void
  }

/** The cover with its fasteners, each in its hole, by group and length; tapped as they come. */
export function Cover({
  fasteners,
  shapes,
  clips = [],
  pry = [],
  face,
  counted,
  way = 'close',
  onToggle,
  photo,
  onPress,
}: Props) {
  const placed =
    photo ||
    fasteners.some((g) => g.at.length > 0) ||
    clips.some((c) => c.at.length > 0) ||
    pry.some((p) => p.at)
  if (fasteners.length + clips.length + pry.length === 0 && !photo) return null
  return (
    <div className="cover">
      {placed && face && <p className="muted cover-face">{face}</p>}
      {placed && (
        <svg
          viewBox={`0 0 ${across} ${down}`}
          aria-hidden="true"
          className={onPress && 'placing'}
          onClick={(e) => onPress?.(pressed(e, e.currentTarget.getBoundingClientRect(), coverMargin))}
        >
          <rect x="2" y="2" width={across - 4} height={down - 4} rx="8" className="cover-plate" />
          {photo && (
            <image
              href={`/api/v1/pictures/${photo}`}
              x={coverMargin}
              y={coverMargin}
              width={across - 2 * coverMargin}
              height={down - 2 * coverMargin}
            />
          )}
          {clips.flatMap((c, k) =>
            c.at.map((p, i) => (
              <path key={`${k}/${i}`} transform={shift(p, coverMargin)} d="M-9 5V-3H9V5" className="clip" />
            )),
          )}
          {pry.map(
            (p, i) =>
              p.at && (
                <path key={i} transform={shift(p.at, coverMargin)} d="M-8-12L8-12L0 4Z" className="pry" />
              ),
          )}
          {fasteners.flatMap((g, k) =>
            g.at.map((p, i) => {
              // Captive fasteners have no hole to count.
              const hole = g.holes[i]
              const on = hole !== undefined && counted?.has(hole)
              const solid = counted && hole !== undefined && (way === 'open' ? !on : on)
              return (
                <g
                  key={`${g.group} ${i}`}
                  transform={shift(p, coverMargin)}
                  className={`screw ${solid ? 'in' : 'out'} ${onToggle && hole !== undefined ? 'live' : ''}`}
                  onClick={() => hole !== undefined && onToggle?.(hole)}
                >
                  <circle r="24" className="screw-target" />
                  <path d={outlines[shapes[k]!]} className={g.captive ? 'captive' : ''} />
                  {solid && <path d="M-5-5L5 5M5-5L-5 5" className="head" />}
                  <text y="25" className="screw-number">
                    {g.count > 1 || fasteners.length > 1 ? i + 1 : ''}
                  </text>
                </g>
              )
            }),
          )}
        </svg>
      )}
      <ul className="cover-groups">
        {fasteners.map((g, k) => (
          <li key={g.group}>
            <svg viewBox="-14 -14 28 28" width="22" height="22" aria-hidden="true" className="screw out">
              <path d={outlines[shapes[k]!]} className={g.captive ? 'captive' : ''} />
            </svg>
            <span>
              <b className="mono">{g.count}</b> × {g.driver}
              {g.length !== null && (
                <>
                  , <b className="mono">{g.length} mm</b>
                </>
              )}
              <span className="muted"> {g.group}</span>
              {g.captive && ', captive: stays in'}
              {g.seal && (
                <>
                  , <b className="sealed">under the seal</b>
                </>
              )}
              {g.hidden && <span className="muted"> – {g.hidden}</span>}
            </span>
          </li>
        ))}
        {clips.map((c, k) => (
          <li key={k}>
            <svg viewBox="-14 -14 28 28" width="22" height="22" aria-hidden="true">
              <path d="M-9 5V-3H9V5" className="clip" />
            </svg>
            <span>
              <b className="mono">{c.count}</b> {c.count === 1 ? 'clip' : 'clips'}
              {c.text && <span className="muted"> – {c.text}</span>}
            </span>
          </li>
        ))}
        {pry.map((p, k) => (
          <li key={k}>
            <svg viewBox="-14 -14 28 28" width="22" height="22" aria-hidden="true">
              <path d="M-8-8L8-8L0 8Z" className="pry" />
            </svg>
            <span>
              {p.tool}
              {p.text && <span className="muted"> – {p.text}</span>}
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}
