import { NativeSelect, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type Person, type SessionLine } from '../api/client'
import { sessionQuery } from '../api/me'
import { sessionsQuery } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { CalendarLink } from './CalendarLink'
import { MailForm } from './MailForm'
import { Proofs } from './Proofs'
import { useComesIn } from './SignIn'

const what = ({ session, isThis }: SessionLine) =>
  isThis ? `${session.name}, here` : session.looks ? `${session.name}: it only looks` : session.name

/** Where one is signed in; a lead sees everybody's, and may end what was lost. */
export function SignedIn({ me }: { me: Person }) {
  const client = useQueryClient()
  const sessions = useQuery(sessionsQuery)
  const comesIn = useComesIn()
  const here = useQuery(sessionQuery).data
  const own = here?.own
  const end = useMutation({
    mutationFn: async (session: string) => {
      await api.DELETE('/api/v1/session/all/{session}', { params: { path: { session } } })
    },
    onSuccess: () => client.invalidateQueries({ queryKey: ['sessions'] }),
  })
  const out = useMutation({
    mutationFn: async () => {
      await api.DELETE('/api/v1/session')
    },
    onSuccess: comesIn,
  })
  return (
    <section className="sheet stack" aria-labelledby="signed-in">
      <h2 id="signed-in">Signed in</h2>
      <div className="row">
        <p>
          You are <b>{me.name}</b>, {me.role}.
        </p>
        <button className="button" onClick={() => out.mutate()}>
          Sign out here
        </button>
      </div>
      <table className="slots-table">
        <thead>
          <tr>
            <th>Who</th>
            <th>With what</th>
            <th>Since</th>
            <th>Last used</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {(sessions.data ?? []).map((line) => (
            <tr key={line.session.id}>
              <td className="mono">{line.session.person}</td>
              <td>{what(line)}</td>
              <td>
                <When at={line.session.madeAt} />
              </td>
              <td>
                <When at={line.session.usedAt} />
              </td>
              <td>
                {!line.isThis && (
                  <button
                    className="button"
                    aria-label={`End it: ${what(line)} of ${line.session.person}`}
                    onClick={() => end.mutate(line.session.id)}
                  >
                    End it
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {(sessions.error ?? end.error) && <Trouble error={sessions.error ?? end.error} />}
      {own?.password && me.role !== 'wall' && <NewPassword />}
      {own && me.role !== 'wall' && <Proofs own={own} />}
      {own && here.mails && me.role !== 'wall' && <MailForm own={own} />}
      {me.role !== 'wall' && <CalendarLink />}
      {me.role !== 'wall' && <Token />}
    </section>
  )
}

function NewPassword() {
  const [old, setOld] = useState('')
  const [next, setNext] = useState('')
  const client = useQueryClient()
  const change = useMutation({
    mutationFn: async () => {
      await api.POST('/api/v1/session/password', { body: { old, new: next } })
    },
    onSuccess: async () => {
      setOld('')
      setNext('')
      await client.invalidateQueries({ queryKey: ['sessions'] })
    },
  })
  return (
    <>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          change.mutate()
        }}
      >
        <TextInput
          label="Password until now"
          type="password"
          autoComplete="current-password"
          value={old}
          onChange={(e) => setOld(e.target.value)}
        />
        <TextInput
          label="New password"
          type="password"
          autoComplete="new-password"
          value={next}
          onChange={(e) => setNext(e.target.value)}
        />
        <button className="button" disabled={!old || !next || change.isPending}>
          Change it
        </button>
      </form>
      {change.isSuccess && !old && <p role="status">Changed. Elsewhere you are signed out.</p>}
      {change.error && <Trouble error={change.error} />}
    </>
  )
}

function Token() {
  const client = useQueryClient()
  const [name, setName] = useState('')
  const [looks, setLooks] = useState(true)
  const make = useMutation({
    mutationFn: async () =>
      (await api.POST('/api/v1/session/tokens', { body: { name, days: 90, looks } })).data!,
    onSuccess: async () => {
      setName('')
      await client.invalidateQueries({ queryKey: ['sessions'] })
    },
  })
  return (
    <>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          make.mutate()
        }}
      >
        <TextInput label="A token for a program" value={name} onChange={(e) => setName(e.target.value)} />
        <NativeSelect
          label="It may"
          data={[
            { value: 'look', label: 'only look' },
            { value: 'work', label: 'do what you may' },
          ]}
          value={looks ? 'look' : 'work'}
          onChange={(e) => setLooks(e.target.value === 'look')}
        />
        <button className="button" disabled={!name.trim() || make.isPending}>
          Make it
        </button>
      </form>
      {make.data && (
        <p className="told" role="status">
          <span className="mono">{make.data.token}</span>
          <br />
          <span className="muted small">It works for 90 days, and is not shown again.</span>
        </p>
      )}
      {make.error && <Trouble error={make.error} />}
    </>
  )
}
