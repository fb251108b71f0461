import { NativeSelect, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, newKey, type BadgeMade, type Person, type PersonInvite, type Role } from '../api/client'
import { shopQuery } from '../api/queries'
import { HereOnly } from '../parts/HereOnly'
import { Trouble } from '../parts/Trouble'

const roles: Role[] = ['technician', 'desk', 'lead', 'wall']

/** Everybody of the shop; leads add people, and let them in or lock them out. */
export function Bench({ me }: { me: Person }) {
  const people = useQuery(shopQuery).data?.people ?? []
  return (
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
  )
}

function Access({ person, own }: { person: Person; own: boolean }) {
  const [link, setLink] = useState<PersonInvite | null>(null)
  const params = { path: { id: person.id } }
  const invite = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/shop/people/{id}/invite', { params })).data!,
    onSuccess: (made) => setLink(made),
  })
  const [badge, setBadge] = useState<BadgeMade | null>(null)
  const makeBadge = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/shop/people/{id}/badge', { params })).data!,
    onSuccess: setBadge,
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
      setBadge(null)
      await client.invalidateQueries({ queryKey: ['sessions'] })
    },
  })
  return (
    <div className="stack">
      <div className="row">
        <button className="button" onClick={() => invite.mutate()}>
          Link to set a password
        </button>
        {person.role !== 'wall' && (
          <button className="button" onClick={() => makeBadge.mutate()}>
            New badge
          </button>
        )}
        {!own && (
          <button className="button" onClick={() => (sure ? shut.mutate() : setSure(true))}>
            {sure ? `Yes: ${person.name} is locked out` : 'Lock out'}
          </button>
        )}
      </div>
      {link && (
        <p className="told" role="status">
          <span className="mono">{link.link}</span>
          <br />
          <span className="muted small">
            For {person.name} alone: it works once, within a day, and is not shown again.
          </span>
        </p>
      )}
      {link && <HereOnly is={link.hereOnly} />}
      {badge && (
        <div role="status">
          <figure className="told badge">
            <img
              className="qr"
              src={`data:image/png;base64,${badge.picture}`}
              alt={`What stands on the badge of ${person.name}`}
            />
            <figcaption>
              <b>{person.name}</b>
              <br />
              <span className="muted small">
                Print it and wear it: the badge before opens nothing any more, and this one is not shown
                again.
              </span>
            </figcaption>
          </figure>
        </div>
      )}
      {shut.isSuccess && !sure && !link && (
        <p role="status">{person.name} can sign in no longer, until there is a new link.</p>
      )}
      {(invite.error ?? makeBadge.error ?? shut.error) && (
        <Trouble error={invite.error ?? makeBadge.error ?? shut.error} />
      )}
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
