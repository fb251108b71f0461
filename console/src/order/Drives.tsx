import type { CheckResult } from '../api/client'
import { driveSize } from '../words'

/** The drives, bay by bay: before hollow, planned hatched, after solid; sizes as sold and in binary. */
export function DriveRows({ check }: { check: CheckResult }) {
  const rows = check.drives.filter((d) => d.before || d.planned || d.after)
  if (rows.length === 0) return null
  const most = Math.max(
    ...rows.flatMap((d) => [d.before?.size ?? 0, d.planned?.size ?? 0, d.after?.drive.size ?? 0]),
    1,
  )
  return (
    <div className="drive-rows" role="table" aria-label="Drives">
      {rows.map((d) => {
        const off = d.match !== 'same' && d.match !== 'unknown'
        return (
          <div key={d.bay} role="row" className="drive-row">
            <b role="rowheader" className="mono">
              {d.bay}
            </b>
            <div role="cell">
              <Bar
                kind="before"
                bytes={d.before?.size}
                most={most}
                text={d.before ? driveSize(d.before.size, true) : 'none'}
              />
              <Bar
                kind="planned"
                bytes={d.planned?.size}
                most={most}
                text={d.planned ? driveSize(d.planned.size, true) : 'empty'}
              />
              <Bar
                kind={off ? 'after short' : 'after'}
                bytes={d.after?.drive.size}
                most={most}
                text={
                  d.after
                    ? `${off ? '≠ ' : ''}${driveSize(d.after.drive.size, true)}`
                    : d.match === 'unknown'
                      ? 'not read'
                      : '≠ not listed'
                }
                off={off}
              />
            </div>
          </div>
        )
      })}
    </div>
  )
}

function Bar(props: {
  kind: string
  bytes: number | null | undefined
  most: number
  text: string
  off?: boolean
}) {
  return (
    <div className="drive-bar">
      <span className="muted small">{props.kind.split(' ')[0]}</span>
      <div>
        {props.bytes ? (
          <div className={`bar ${props.kind}`} style={{ width: `${(100 * props.bytes) / props.most}%` }} />
        ) : null}
      </div>
      <span className={props.off ? 'mono off' : 'mono'}>{props.text}</span>
    </div>
  )
}
