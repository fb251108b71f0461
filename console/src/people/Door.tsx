import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, type ReactNode } from 'react'
import { onSignedOut, seat } from '../api/client'
import { sessionQuery } from '../api/me'
import { Trouble } from '../parts/Trouble'
import { SignIn } from './SignIn'
import { AtTablet, FreeTablet } from './Tablet'

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
  if (session.data) {
    const { person, tablet } = session.data
    if (!person)
      return tablet ? <FreeTablet session={session.data} seat={tablet} /> : <SignIn session={session.data} />
    return tablet ? (
      <AtTablet seat={tablet} person={person}>
        {children}
      </AtTablet>
    ) : (
      children
    )
  }
  return session.error ? (
    <div className="page stack">
      <Trouble error={session.error} />
      <button className="button" onClick={() => void session.refetch()}>
        Try again
      </button>
    </div>
  ) : null
}
