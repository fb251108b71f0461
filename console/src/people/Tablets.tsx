import { TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type TabletMade } from '../api/client'
import { tabletsQuery } from '../api/queries'
import { HereOnly } from '../parts/HereOnly'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'

/** The bench's tablets: a lead makes one of a screen by a link, and ends what was lost. */
export function Tablets() {
  const client = useQueryClient()
  const tablets = useQuery(tabletsQuery)
  const again = () => client.invalidateQueries({ queryKey: tabletsQuery.queryKey })
  const drop = useMutation({
    mutationFn: async (tablet: string) => {
      await api.DELETE('/api/v1/shop/tablets/{tablet}', { params: { path: { tablet } } })
    },
    onSuccess: again,
  })
  return (
    <section className="sheet stack" aria-labelledby="tablets">
      <h2 id="tablets">Bench tablets</h2>
      {tablets.data?.length === 0 && (
        <p className="muted">
          None yet. On a bench tablet people change by badge or PIN, and it asks again when it lies idle.
        </p>
      )}
      {(tablets.data?.length ?? 0) > 0 && (
        <table className="slots-table">
          <thead>
            <tr>
              <th>Name</th>
              <th>Enrolled</th>
              <th>Last used</th>
              <td />
            </tr>
          </thead>
          <tbody>
            {tablets.data?.map((t) => (
              <tr key={t.id}>
                <td>{t.name}</td>
                <td>{t.enrolledAt ? <When at={t.enrolledAt} /> : 'its link was not opened yet'}</td>
                <td>{t.usedAt && <When at={t.usedAt} />}</td>
                <td>
                  <button
                    className="button"
                    aria-label={`End it: ${t.name}`}
                    onClick={() => drop.mutate(t.id)}
                  >
                    End it
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {(tablets.error ?? drop.error) && <Trouble error={tablets.error ?? drop.error} />}
      <Make made={again} />
    </section>
  )
}

function Make({ made }: { made: () => Promise<unknown> }) {
  const [name, setName] = useState('')
  const make = useMutation({
    mutationFn: async (): Promise<TabletMade> =>
      (await api.POST('/api/v1/shop/tablets', { body: { name } })).data!,
    onSuccess: () => {
      setName('')
      return made()
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
        <TextInput label="A tablet’s name" value={name} onChange={(e) => setName(e.target.value)} />
        <button className="button" disabled={!name.trim() || make.isPending}>
          Make its link
        </button>
      </form>
      {make.data && (
        <p className="told" role="status">
          <span className="mono">{make.data.link}</span>
          <br />
          <span className="muted small">
            Open it on that screen, once: it ends <When at={make.data.expiresAt} />, and is not shown again.
          </span>
        </p>
      )}
      {make.data && <HereOnly is={make.data.hereOnly} />}
      {make.error && <Trouble error={make.error} />}
    </>
  )
}
