import { useInfiniteQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, newKey } from '../api/client'
import { useMe } from '../api/me'
import { suggestionsQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { Name } from '../people/Name'

/** What orders taught: a lead takes each into the model's draft with one press, or leaves it. */
export function Suggestions({ code }: { code?: string }) {
  const client = useQueryClient()
  const list = useInfiniteQuery(suggestionsQuery(code))
  const lead = useMe()?.isLead ?? false
  const [error, setError] = useState<Error | null>(null)
  const open = items(list)
  if (open.length === 0) return null
  const decide = async (order: number, sequence: number, way: 'accept' | 'decline') => {
    setError(null)
    try {
      await api.POST(`/api/v1/suggestions/{order}/{sequence}/${way}`, {
        params: { path: { order, sequence }, header: newKey() },
      })
    } catch (e) {
      setError(e as Error)
    }
    await client.invalidateQueries({ queryKey: ['suggestions'] })
    await client.invalidateQueries({ queryKey: ['draft'] })
  }
  return (
    <section className="sheet stack" aria-label="Suggestions">
      <h2>What orders taught</h2>
      <Trouble error={error} />
      <ul className="suggestions">
        {open.map((s) => (
          <li key={`${s.order}/${s.sequence}`}>
            <span>
              {!code && <b className="mono">{s.code} </b>}
              {s.text}
              <span className="muted small">
                {' '}
                <Name id={s.by} /> on{' '}
                <Link to="/orders/$number" params={{ number: String(s.order) }}>
                  {s.order}
                </Link>
                , <When at={s.at} />
              </span>
            </span>
            {lead && (
              <span className="row">
                <button className="button" onClick={() => void decide(s.order, s.sequence, 'accept')}>
                  Into the draft
                </button>
                <button className="button" onClick={() => void decide(s.order, s.sequence, 'decline')}>
                  Leave it
                </button>
              </span>
            )}
          </li>
        ))}
      </ul>
      <More list={list} />
    </section>
  )
}
