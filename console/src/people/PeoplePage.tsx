import { NativeSelect, TextInput } from '@mantine/core'
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, newKey, type Person, type Role, type SessionLine } from '../api/client'
import { sessionQuery, useMe } from '../api/me'
import { auditQuery, sessionsQuery, shopQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Trouble } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { When } from '../parts/When'
import { useComesIn } from './SignIn'
import './people.css'

const roles: Role[] = ['technician', 'desk', 'lead', 'wall']

/** Who is at the bench, where oneself is signed in, and (for leads) who comes in. */
export function PeoplePage() {
  useTitle('People')
  const me = useMe()
  const people = useQuery(shopQuery).data?.people ?? []
  if (!me) return null
  return (
    <div className="page stack people-page">
      <h1>People</h1>
      <section className="sheet stack" aria-labelledby="everybody">
        <h2 id="everybody">The bench</h2>
        <table className="slots-table">
          <thead>
            <tr>
              <th>Name</th>
              <th>Id</th>
              <th>Role</th>
              {me.isLead && <th>Coming in</th>}
            </tr>
          </thead>
          <tbody>
            {people.map((p) => (
              <tr key={p.id}>
                <td>{p.name}</td>
                <td className="mono">{p.id}</td>
                <td>{p.role === 'wall' ? 'wall: it only looks' : p.role}</td>
                {me.isLead && (
                  <td>
                    <Access person={p} own={p.id === me.id} />
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
        {me.isLead && <Add />}
      </section>
      <Mine me={me} />
      {me.isLead && <Audit />}
    </div>
  )
}

function Access({ person, own }: { person: Person; own: boolean }) {
  const [link, setLink] = useState<string | null>(null)
  const params = { path: { id: person.id } }
  const invite = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/shop/people/{id}/invite', { params })).data!,
    onSuccess: (made) => setLink(made.link),
  })
  const [sure, setSure] = useState(false)
  const client = useQueryClient()
  const shut = useMutation({
    mutationFn: async () => {
      await api.DELETE('/api/v1/shop/people/{id}/access', { params })
    },
    onSuccess: async () => {
      setSure(false)
      setLink(null)
      await client.invalidateQueries({ queryKey: ['sessions'] })
    },
  })
  return (
    <div className="stack">
      <div className="row">
        <button className="button" onClick={() => invite.mutate()}>
          Link to set a password
        </button>
        {!own && (
          <button className="button" onClick={() => (sure ? shut.mutate() : setSure(true))}>
            {sure ? `Yes: ${person.name} is locked out` : 'Lock out'}
          </button>
        )}
      </div>
      {link && (
        <p className="told" role="status">
          <span className="mono">{link}</span>
          <br />
          <span className="muted small">
            For {person.name} alone: it works once, within a day, and is not shown again.
          </span>
        </p>
      )}
      {shut.isSuccess && !sure && !link && (
        <p role="status">{person.name} can sign in no longer, until there is a new link.</p>
      )}
      {(invite.error ?? shut.error) && <Trouble error={invite.error ?? shut.error} />}
    </div>
  )
}

function Add() {
  const client = useQueryClient()
  const [id, setId] = useState('')
  const [name, setName] = useState('')
  const [role, setRole] = useState<Role>('technician')
  const add = useMutation({
    mutationFn: async (header: ReturnType<typeof newKey>) => {
      const params = { path: { id: id.trim() }, header }
      await api.PUT('/api/v1/shop/people/{id}', { params, body: { name, role } })
    },
    onSuccess: async () => {
      setId('')
      setName('')
      await client.invalidateQueries({ queryKey: ['shop'] })
    },
  })
  return (
    <>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          add.mutate(newKey())
        }}
      >
        <TextInput label="Name" value={name} onChange={(e) => setName(e.target.value)} />
        <TextInput label="Id" value={id} onChange={(e) => setId(e.target.value)} autoCapitalize="none" />
        <NativeSelect
          label="Role"
          data={roles}
          value={role}
          onChange={(e) => setRole(e.target.value as Role)}
        />
        <button className="button" disabled={!id.trim() || !name.trim() || add.isPending}>
          Add or change
        </button>
      </form>
      {add.error && <Trouble error={add.error} />}
    </>
  )
}

const what = ({ session, isThis }: SessionLine) =>
  isThis ? `${session.name}, here` : session.looks ? `${session.name}: it only looks` : session.name

/** Where one is signed in; a lead sees everybody's, and may end what was lost. */
function Mine({ me }: { me: Person }) {
  const client = useQueryClient()
  const sessions = useQuery(sessionsQuery)
  const comesIn = useComesIn()
  const demo = useQuery(sessionQuery).data?.demo
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
      {!demo && me.role !== 'wall' && <NewPassword />}
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

function Audit() {
  const audit = useInfiniteQuery(auditQuery)
  return (
    <section className="sheet stack" aria-labelledby="audit">
      <h2 id="audit">Who came in, and what was done about people</h2>
      <table className="slots-table">
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>What</th>
            <th>About</th>
            <th>From</th>
          </tr>
        </thead>
        <tbody>
          {items(audit).map((line) => (
            <tr key={line.position}>
              <td>
                <When at={line.at} />
              </td>
              <td className="mono">{line.by}</td>
              <td>{line.what.replaceAll('-', ' ')}</td>
              <td>{line.about}</td>
              <td className="mono">{line.from}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <More list={audit} />
      {audit.error && <Trouble error={audit.error} />}
    </section>
  )
}
