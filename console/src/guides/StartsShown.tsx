import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useMe } from '../api/me'
import { signsQuery } from '../api/queries'
import { counted } from '../words'

/** What the starts of this model showed, and what a lead might change for it. */
export function StartsShown({ code }: { code: string }) {
  const lead = useMe()?.isLead ?? false
  const counts = useQuery({ ...signsQuery(code), enabled: lead }).data
  if (!counts || counts.signs.length === 0) return null
  return (
    <section className="sheet stack" aria-label="What starts showed">
      <h2>What starts showed</h2>
      <p className="muted">
        {counted(counts.starts, 'start', 'starts')} of {counted(counts.orders, 'order', 'orders')}
      </p>
      <ul className="suggestions">
        {counts.signs.map((s) => (
          <li key={s.sees}>
            <span>
              <b>{s.sees}</b> <span className="muted">{s.means ?? 'not in the guide'}</span>
              {s.advice && (
                <>
                  <br />
                  <span className="verdict remark">!</span> {s.advice}
                </>
              )}
            </span>
            <span className="muted small">
              {s.times === 0 ? 'never told' : `told ${counted(s.times, 'time', 'times')}`}
              {s.passed > 0 && `, ${s.passed} normal after it`}
              {s.last !== null && (
                <>
                  , last on{' '}
                  <Link to="/orders/$number" params={{ number: String(s.last) }}>
                    {s.last}
                  </Link>
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
