import { TextInput } from '@mantine/core'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api } from '../api/client'
import { Trouble } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { useComesIn } from './SignIn'
import './people.css'

/** Behind a set-up link: a password is chosen, once. What opens it stands behind #, and reaches no log. */
export function SetUp() {
  useTitle('Choose a password')
  const link = location.hash.slice(1)
  const path = { link: link || '-' }
  const opens = useQuery({
    queryKey: ['set-up', link],
    queryFn: async () => (await api.GET('/api/v1/session/set-up/{link}', { params: { path } })).data!,
    retry: false,
    staleTime: Infinity,
  })
  const [id, setId] = useState('')
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const comesIn = useComesIn()
  const navigate = useNavigate()
  const first = opens.data && !opens.data.person
  const choose = useMutation({
    mutationFn: async () => {
      const who = first ? { id: id.trim(), name: name.trim() } : {}
      await api.POST('/api/v1/session/set-up/{link}', { params: { path }, body: { password, ...who } })
    },
    onSuccess: async () => {
      await navigate({ to: '/' })
      await comesIn()
    },
  })
  return (
    <main className="sign-in stack">
      <header className="row">
        <img src="/mark.svg" alt="" />
        <h1>{opens.data?.person ? `Welcome, ${opens.data.person.name}` : 'Choose a password'}</h1>
      </header>
      {opens.error && <Trouble error={opens.error} />}
      {opens.data && (
        <form
          className="sheet stack"
          onSubmit={(e) => {
            e.preventDefault()
            choose.mutate()
          }}
        >
          {first && (
            <>
              <p>You will be the shop’s first lead: leads add the others, and publish guides.</p>
              <TextInput
                label="Your name"
                autoComplete="name"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <TextInput
                label="Your id"
                description="Short, in lower case: it stands beside what you do, and is what you sign in with."
                autoComplete="username"
                autoCapitalize="none"
                value={id}
                onChange={(e) => setId(e.target.value)}
              />
            </>
          )}
          <TextInput
            label="Password"
            type="password"
            description="At least 15 characters. Four words that do not belong together are easy to keep in mind."
            autoComplete="new-password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
          <button className="button now" disabled={!password || choose.isPending || (first && !(id && name))}>
            Choose it and sign in
          </button>
          {choose.error && <Trouble error={choose.error} />}
        </form>
      )}
    </main>
  )
}
