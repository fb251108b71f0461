import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, type ReactNode } from 'react'
import { onSignedOut, seat } from '../api/client'
import { sessionQuery } from '../api/me'
import { Trouble } from '../parts/Trouble'
import { SignIn } from './SignIn'

/** What stands before every page of the bench: whoever is not signed in signs in here, and goes on where they were. */
export function Door({ children }: { children: ReactNode }) {
  const client = useQueryClient()
  const session = useQuery(sessionQuery)
  useEffect(
    () =>
      onSignedOut(() => {
        seat(null)
        void client.refetchQueries({ queryKey: sessionQuery.queryKey })
      }),
    [client],
  )
  if (session.data?.person) return children
  if (session.data) return <SignIn session={session.data} />
  return session.error ? (
    <div className="page stack">
      <Trouble error={session.error} />
      <button className="button" onClick={() => void session.refetch()}>
        Try again
      </button>
    </div>
  ) : null
}
