import { TextInput } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type OwnProofs } from '../api/client'
import { sessionQuery } from '../api/me'
import { Trouble } from '../parts/Trouble'
import { useAgain } from './again'

/** How one comes in beside the password: a PIN at the bench's tablets, one-time codes. */
export function Proofs({ own }: { own: OwnProofs }) {
  return (
    <>
      <PinForm own={own} />
      {own.password && (own.codes ? <CodesAsked left={own.codesOnPaper} /> : <CodesForm />)}
    </>
  )
}

const useSessionAgain = () => useAgain(sessionQuery.queryKey)

function PinForm({ own }: { own: OwnProofs }) {
  const [pin, setPin] = useState('')
  const [password, setPassword] = useState('')
  const again = useSessionAgain()
  const choose = useMutation({
    mutationFn: async () => {
      await api.POST('/api/v1/session/pin', { body: { pin, password: own.password ? password : null } })
    },
    onSuccess: () => {
      setPin('')
      setPassword('')
      return again()
    },
  })
  return (
    <>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          choose.mutate()
        }}
      >
        <TextInput
          label={own.pin ? 'Another PIN for the bench’s tablets' : 'A PIN for the bench’s tablets'}
          type="password"
          inputMode="numeric"
          autoComplete="off"
          value={pin}
          onChange={(e) => setPin(e.target.value)}
        />
        {own.password && (
          <TextInput
            label="Your password"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        )}
        <button className="button" disabled={!pin || (own.password && !password) || choose.isPending}>
          Choose it
        </button>
      </form>
      {choose.isSuccess && !pin && <p role="status">The PIN works at every tablet of the bench.</p>}
      {choose.error && <Trouble error={choose.error} />}
    </>
  )
}

function CodesForm() {
  const [password, setPassword] = useState('')
  const [code, setCode] = useState('')
  const again = useSessionAgain()
  const begin = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/session/codes', { body: { password } })).data!,
    onSuccess: () => setPassword(''),
  })
  const confirm = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/session/codes/confirm', { body: { code } })).data!,
  })
  if (confirm.data)
    return (
      <div className="told stack" role="status">
        <p>From now on a code is asked for beside your password. Each of these opens once without one:</p>
        <ul className="paper-codes mono">
          {confirm.data.codes.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
        <button className="button" onClick={() => void again()}>
          I have them on paper
        </button>
      </div>
    )
  if (begin.data)
    return (
      <form
        className="told stack"
        onSubmit={(e) => {
          e.preventDefault()
          confirm.mutate()
        }}
      >
        <p>Have the program that makes your codes read this, then type the code that it shows.</p>
        <img
          className="qr"
          src={`data:image/png;base64,${begin.data.picture}`}
          alt={`What makes the codes, as a picture; in letters ${begin.data.key}`}
        />
        <p className="mono small">{begin.data.key}</p>
        <TextInput
          label="The code that it shows"
          inputMode="numeric"
          autoComplete="one-time-code"
          value={code}
          onChange={(e) => setCode(e.target.value)}
        />
        <button className="button now" disabled={!code.trim() || confirm.isPending}>
          Ask for codes from now on
        </button>
        {confirm.error && <Trouble error={confirm.error} />}
      </form>
    )
  return (
    <>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          begin.mutate()
        }}
      >
        <TextInput
          label="For one-time codes: your password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        <button className="button" disabled={!password || begin.isPending}>
          Begin with codes
        </button>
      </form>
      {begin.error && <Trouble error={begin.error} />}
    </>
  )
}

function CodesAsked({ left }: { left: number }) {
  const [password, setPassword] = useState('')
  const again = useSessionAgain()
  const end = useMutation({
    mutationFn: async () => {
      await api.POST('/api/v1/session/codes/end', { body: { password } })
    },
    onSuccess: again,
  })
  return (
    <>
      <p>
        A one-time code is asked for beside your password. {left} of the codes on paper{' '}
        {left === 1 ? 'is' : 'are'} left.
      </p>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          end.mutate()
        }}
      >
        <TextInput
          label="To end that: your password"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
        <button className="button" disabled={!password || end.isPending}>
          Ask for no codes
        </button>
      </form>
      {end.error && <Trouble error={end.error} />}
    </>
  )
}
