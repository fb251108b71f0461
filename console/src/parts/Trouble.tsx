import { Link } from '@tanstack/react-router'
import { Problem } from '../api/client'

/** What went wrong, in the service's own words; nothing when all is well. */
export function Trouble({ error }: { error: Error | null }) {
  return error ? (
    <p className="trouble" role="alert">
      {error instanceof TypeError
        ? 'The service does not answer, and this was not recorded. Press again when it is back.'
        : error.message}
    </p>
  ) : null
}

/** Holds the place of a page until its data is there. */
export function Waiting({ error }: { error: Error | null }) {
  return (
    <div className="page stack">
      {error ? <Trouble error={error} /> : <p className="muted">Fetching…</p>}
      {error instanceof Problem && error.status === 404 && (
        <p>
          <Link to="/">To the board</Link>
        </p>
      )}
    </div>
  )
}
