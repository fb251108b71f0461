import type { FastenerGroup } from '../api/client'
import './run.css'

// Groups differ by shape as well as by place and name.
const shapes = [
  'M0-11A11 11 0 1 0 0 11A11 11 0 1 0 0-11Z',
  'M-10-10H10V10H-10Z',
  'M0-13L12 9H-12Z',
  'M0-13L13 0L0 13L-13 0Z',
]

type Props = {
  groups: FastenerGroup[]
  /** Which fasteners are counted, by “group/index”; none where the cover is only shown. */
  counted?: ReadonlySet<string>
  onToggle?: (key: string) => void
}

export const fastenerKeys = (groups: FastenerGroup[]) =>
  groups
    .filter((g) => !g.captive)
    .flatMap((g) => Array.from({ length: g.count }, (_, i) => `${g.group}/${i}`))

/** The cover with its fasteners, each in its hole, by group and length; tapped as they come. */
export function Cover({ groups, counted, onToggle }: Props) {
  if (groups.length === 0) return null
  return (
    <div className="cover">
      {groups.some((g) => g.at.length > 0) && (
        <svg viewBox="0 0 360 240" aria-hidden="true">
          <rect x="2" y="2" width="356" height="236" rx="8" className="cover-plate" />
          {groups.flatMap((g, k) =>
            g.at.map((p, i) => {
              const key = `${g.group}/${i}`
              const on = counted?.has(key)
              return (
                <g
                  key={key}
                  transform={`translate(${20 + p.x * 320} ${20 + p.y * 200})`}
                  className={`screw ${on ? 'on' : ''} ${onToggle && !g.captive ? 'live' : ''}`}
                  onClick={() => !g.captive && onToggle?.(key)}
                >
                  <circle r="22" className="screw-target" />
                  <path d={shapes[k % shapes.length]} className={g.captive ? 'captive' : ''} />
                  {on && <path d="M-5 0L-1 5L6-5" className="tick" />}
                </g>
              )
            }),
          )}
        </svg>
      )}
      <ul className="cover-groups">
        {groups.map((g, k) => (
          <li key={g.group}>
            <svg viewBox="-14 -14 28 28" width="20" height="20" aria-hidden="true" className="screw">
              <path d={shapes[k % shapes.length]} className={g.captive ? 'captive' : ''} />
            </svg>
            <span>
              <b className="mono">{g.count}</b> × {g.driver}
              {g.length !== null && `, ${g.length} mm`}
              {g.captive && ', captive: stays in'}
              {g.hidden && <span className="muted"> – {g.hidden}</span>}
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}
