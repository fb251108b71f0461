import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { draftsQuery } from '../api/queries'
import { When } from '../parts/When'
import { counted } from '../words'
import { Name } from '../people/Name'

/** What somebody works on, and what keeps it from being published. */
export function Drafts() {
  const drafts = useQuery(draftsQuery).data ?? []
  if (drafts.length === 0) return null
  return (
    <section className="sheet stack" aria-label="Drafts">
      <h2>Drafts</h2>
      <ul className="suggestions">
        {drafts.map((d) => (
          <li key={d.code}>
            <span>
              <Link to="/guides/$code/edit" params={{ code: d.code }} className="mono">
                {d.code}
              </Link>
              {d.isNew && <span className="muted"> a new model</span>}
              {' · '}
              {d.problems === 0 ? 'all well' : counted(d.problems, 'problem', 'problems')}
            </span>
            <span className="muted small">
              <Name id={d.by} />, <When at={d.at} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
