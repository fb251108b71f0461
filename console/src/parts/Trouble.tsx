import { Link } from '@tanstack/react-router'
import { isLost, Problem } from '../api/client'

/** What went wrong, in the service's own words; nothing when all is well. */
export function Trouble({ error }: { error: Error | null }) {
  return error ? (
    <p className="trouble" role="alert">
      {isLost(error)
        ? 'The service does not answer. Whether it has recorded this shows once it is back.'
        : error.message}
    </p>
  ) : null
}

/** Holds the place of a page until its data is there. */
export function Waiting({ error }: { error: Error | null }) {
  return (
    <div className="page stack">
      {!error && <p className="muted">Fetching…</p>}
      {error && (
        <h1>{error instanceof Problem && error.status === 404 ? 'Not here' : 'Not to be had now'}</h1>
      )}
      {error &&
        (isLost(error) ? (
          <p className="trouble" role="alert">
            The service does not answer, and this page is not kept on this screen.{' '}
            <Link to="/kept">What is kept</Link>
          </p>
        ) : (
          <Trouble error={error} />
        ))}
      {error instanceof Problem && error.status === 404 && (
        <p>
          <Link to="/">To the board</Link>
        </p>
      )}
    </div>
  )
}
