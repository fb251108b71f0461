import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { api } from '../api/client'
import { Trouble } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import './people.css'

/** Behind the link that makes a screen a bench tablet. What opens it stands behind #, and reaches no log. */
export function EnrolTablet() {
  useTitle('Bench tablet')
  const client = useQueryClient()
  const navigate = useNavigate()
  const enrol = useMutation({
    mutationFn: async () => {
      const path = { link: location.hash.slice(1) || '-' }
      await api.POST('/api/v1/session/tablet/{link}', { params: { path } })
    },
    onSuccess: async () => {
      await navigate({ to: '/' })
      await client.resetQueries()
    },
  })
  return (
    <main className="sign-in stack">
      <header className="row">
        <img src="/mark.svg" alt="" />
        <h1>A tablet for the bench</h1>
      </header>
      <section className="sheet stack">
        <p>
          From now on this screen asks whose hands work at it: by badge, or by name and PIN. Whoever is signed
          in here now is signed out.
        </p>
        <button className="button now" disabled={enrol.isPending} onClick={() => enrol.mutate()}>
          Make this screen a bench tablet
        </button>
        {enrol.error && <Trouble error={enrol.error} />}
      </section>
    </main>
  )
}
