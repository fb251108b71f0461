import { TextInput } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, Problem, type Person, type SessionView } from '../api/client'
import { Trouble } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import './people.css'

/** Whoever comes in begins with a clean page: what another saw here is fetched anew. */
export const useComesIn = () => {
  const client = useQueryClient()
  return () => client.resetQueries()
}

/** One of the demo's people sits down here. */
export const useDemoSeat = () => {
  const comesIn = useComesIn()
  return useMutation({
    mutationFn: async (person: string) => {
      await api.POST('/api/v1/session/demo', { body: { person } })
    },
    onSuccess: comesIn,
  })
}

/** The page that nobody gets past without saying, and proving, who they are. */
export function SignIn({ session }: { session: SessionView }) {
  useTitle('Sign in')
  const stranger = new URLSearchParams(location.search).get('stranger')
  return (
    <main className="sign-in stack">
      <header className="row">
        <img src="/mark.svg" alt="" />
        <h1>{session.shop}</h1>
      </header>
      {session.demo ? (
        <DemoPeople people={session.demo} />
      ) : session.wantsSetUp ? (
        <p className="sheet">
          Nobody can sign in here yet. The service’s log has a link, told when it starts, by which the shop’s
          first lead chooses a password.
        </p>
      ) : (
        <>
          {stranger && (
            <p className="trouble" role="alert">
              Nobody at this bench is called “{stranger}”. A lead adds people under the id that they have
              there.
            </p>
          )}
          {session.elsewhere && (
            <a className="button" href="/api/v1/session/oidc">
              Sign in with {session.elsewhere}
            </a>
          )}
          <Password />
        </>
      )}
    </main>
  )
}

function DemoPeople({ people }: { people: Person[] }) {
  const sit = useDemoSeat()
  return (
    <section className="sheet stack">
      <p>This is a demo: nobody here has a password. Who are you today?</p>
      <ul className="people-grid">
        {people.map((p) => (
          <li key={p.id}>
            <button className="button" disabled={sit.isPending} onClick={() => sit.mutate(p.id)}>
              <b>{p.name}</b>
              <span className="muted small">{p.role}</span>
            </button>
          </li>
        ))}
      </ul>
      {sit.error && <Trouble error={sit.error} />}
    </section>
  )
}

/** One's id and password, and a one-time code where one is asked for. */
export function Password() {
  const comesIn = useComesIn()
  const [person, setPerson] = useState('')
  const [password, setPassword] = useState('')
  const [code, setCode] = useState('')
  const signIn = useMutation({
    mutationFn: async () => {
      await api.POST('/api/v1/session', { body: { person: person.trim(), password, code: code || null } })
    },
    onSuccess: comesIn,
  })
  const asked = signIn.error instanceof Problem && ['code-wanted', 'wrong-code'].includes(signIn.error.code)
  const wantsCode = asked || code !== ''
  return (
    <form
      className="sheet stack"
      onSubmit={(e) => {
        e.preventDefault()
        signIn.mutate()
      }}
    >
      <TextInput
        label="Your id"
        autoComplete="username"
        autoCapitalize="none"
        value={person}
        onChange={(e) => setPerson(e.target.value)}
      />
      <TextInput
        label="Password"
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={(e) => setPassword(e.target.value)}
      />
      {wantsCode && (
        <TextInput
          label="One-time code, or one from paper"
          autoComplete="one-time-code"
          value={code}
          onChange={(e) => setCode(e.target.value)}
        />
      )}
      <button className="button now" disabled={!person.trim() || !password || signIn.isPending}>
        Sign in
      </button>
      {signIn.error && <Trouble error={signIn.error} />}
      <p className="muted small">Without a password, or with one forgotten: a lead makes you a link.</p>
    </form>
  )
}
