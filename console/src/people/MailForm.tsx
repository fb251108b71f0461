import { TextInput } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type OwnProofs } from '../api/client'
import { sessionQuery } from '../api/me'
import { Trouble } from '../parts/Trouble'
import { useAgain } from './again'

/** Where one's own notices go that lie unread. */
export function MailForm({ own }: { own: OwnProofs }) {
  const [mail, setMail] = useState(own.mail ?? '')
  const again = useAgain(sessionQuery.queryKey)
  const put = useMutation({
    mutationFn: async () => {
      await api.PUT('/api/v1/session/mail', { body: { mail: mail.trim() || null } })
    },
    onSuccess: again,
  })
  return (
    <>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          put.mutate()
        }}
      >
        <TextInput
          label="Mail me notices that lie unread, at"
          type="email"
          autoComplete="email"
          value={mail}
          onChange={(e) => setMail(e.target.value)}
        />
        <button className="button" disabled={mail.trim() === (own.mail ?? '') || put.isPending}>
          {mail.trim() || !own.mail ? 'Mail me' : 'Mail me no more'}
        </button>
      </form>
      {own.mailFault && (
        <p role="alert">
          <b className="short">The mail server does not take this address</b>: {own.mailFault}
        </p>
      )}
      {put.error && <Trouble error={put.error} />}
    </>
  )
}
