import type { ReactNode } from 'react'
import type { CheckResult, Finding } from '../api/client'
import { size } from '../words'

const severities = { short: '✕ short', remark: '! remark', note: 'note' }

/**
 * What was noticed, heaviest first; likely causes folded.
 * @param act The button that starts a finding's action, where there is one.
 */
export function Findings({ check, act }: { check: CheckResult; act?: (finding: Finding) => ReactNode }) {
  if (check.findings.length === 0) return <p className="muted">Nothing else was noticed.</p>
  return (
    <ul className="stack" aria-label="Findings">
      {check.findings.map((f) => (
        <li key={f.code + f.sentence} className={`finding ${f.severity}`}>
          <h3>
            <span className={`verdict ${f.severity}`}>{severities[f.severity]}</span> {f.sentence}
          </h3>
          {f.severity !== 'note' && <p>{f.action.text}</p>}
          {act?.(f)}
          <details>
            <summary className="small muted">
              seen {f.seen}, expected {f.expected}; entries {f.evidence.join(', ')}
            </summary>
            <ol className="small">
              {f.causes.map((c) => (
                <li key={c}>{c}</li>
              ))}
            </ol>
            <p className="small">
              <span className="muted">To the customer:</span> {f.customer}
            </p>
          </details>
        </li>
      ))}
    </ul>
  )
}

/** Installed and usable as bars in the three fills. */
export function Totals({ check }: { check: CheckResult }) {
  return (
    <div className="totals">
      <Total name="Installed" total={check.installed} />
      <Total name="Usable" total={check.usable} />
    </div>
  )
}

function Total({ name, total }: { name: string; total: CheckResult['installed'] }) {
  const { before, plannedLow, plannedHigh, after } = total
  const most = Math.max(before ?? 0, plannedHigh ?? 0, after ?? 0, 1)
  const short = after !== null && plannedLow !== null && after < plannedLow
  const range = plannedLow === plannedHigh ? size(plannedHigh) : `${size(plannedLow)} to ${size(plannedHigh)}`
  const rows: [string, number | null, string][] = [
    ['before', before, size(before)],
    ['planned', plannedHigh, range],
    ['after', after, size(after)],
  ]
  return (
    <div className="total">
      <h3>{name}</h3>
      {rows.map(([row, bytes, text]) => (
        <div key={row} style={{ display: 'contents' }}>
          <span className="muted small">{row}</span>
          <div
            className={`bar ${row} ${short && row === 'after' ? 'short' : ''}`}
            style={{ width: `${(100 * (bytes ?? 0)) / most}%` }}
          />
          <span className={`mono ${short && row === 'after' ? 'off' : ''}`}>{text}</span>
        </div>
      ))}
    </div>
  )
}
