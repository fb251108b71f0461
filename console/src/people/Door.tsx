import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, type ReactNode } from 'react'
import { onSignedOut, seat, type Person } from '../api/client'
import { sessionQuery } from '../api/me'
import { Trouble } from '../parts/Trouble'
import { forgetKept } from '../away/kept'
import { forgetPeople } from '../away/people'
import { installConsole } from '../away/update'
import { useAway } from '../away/useAway'
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
  const isForgotten = session.data !== undefined && !session.data.person && !session.data.tablet
  useEffect(() => {
    // Nobody's screen keeps nothing of the shop.
    if (!isForgotten) return
    forgetPeople()
    void forgetKept()
  }, [isForgotten])
  if (session.data) {
    const { person, tablet } = session.data
    if (!person)
      return tablet ? <FreeTablet session={session.data} seat={tablet} /> : <SignIn session={session.data} />
    return tablet ? (
      <AtTablet seat={tablet} person={person}>
        <Inside person={person}>{children}</Inside>
      </AtTablet>
    ) : (
      <Inside person={person}>{children}</Inside>
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

function Inside({ person, children }: { person: Person; children: ReactNode }) {
  useAway(person)
  useEffect(installConsole, [])
  return children
}
