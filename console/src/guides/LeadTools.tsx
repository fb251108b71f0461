import { NativeSelect } from '@mantine/core'
import { useInfiniteQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, newKey, send, type ExchangeFile } from '../api/client'
import { useMe } from '../api/me'
import { guidesQuery } from '../api/queries'
import { FilePick } from '../parts/FilePick'
import { items } from '../parts/More'
import { Trouble } from '../parts/Trouble'

type Imported = { guides: { code: string; revision: number; isNew: boolean }[]; pictures: number }

/** What a lead does with the whole shelf: a guide for a new model, a file or a library from elsewhere. */
export function LeadTools({ onExchange }: { onExchange: (file: ExchangeFile) => void }) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const me = useMe()
  const [code, setCode] = useState('')
  const [like, setLike] = useState('')
  const models = items(useInfiniteQuery(guidesQuery()))
  const [told, setTold] = useState('')
  const [error, setError] = useState<Error | null>(null)
  if (!me?.isLead) return null
  const take = async (file: File) => {
    setError(null)
    setTold('')
    try {
      if (file.name.endsWith('.json')) {
        onExchange(JSON.parse(await file.text()) as ExchangeFile)
      } else if (file.name.endsWith('.zip')) {
        const answer = await send('POST', 'library', file, undefined, 'application/zip')
        const { guides, pictures } = (await answer.json()) as Imported
        const fresh = guides.filter((g) => g.isNew)
        setTold(`${fresh.length} of ${guides.length} guides are new, ${pictures} pictures.`)
      } else {
        const answer = await send('POST', 'guides', await file.text(), undefined, 'application/yaml')
        const done = (await answer.json()) as Imported['guides'][number]
        setTold(`${done.code} revision ${done.revision}${done.isNew ? '' : ' is this file already'}.`)
      }
      await client.invalidateQueries({ queryKey: ['guides'] })
    } catch (e) {
      setError(
        e instanceof SyntaxError ? new Error(`“${file.name}” holds no guide of another shop.`) : (e as Error),
      )
    }
  }
  const begin = async (fresh: string) => {
    setError(null)
    try {
      if (like)
        await api.POST('/api/v1/guides/{code}/draft/like/{model}', {
          params: { path: { code: fresh, model: like }, header: newKey() },
        })
      await client.invalidateQueries({ queryKey: ['draft', fresh] })
      await navigate({ to: '/guides/$code/edit', params: { code: fresh } })
    } catch (e) {
      setError(e as Error)
    }
  }
  return (
    <div className="row lead-tools">
      <FilePick label="Take a file in" accept=".zip,.yaml,.yml,.json" onPick={(file) => void take(file)} />
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          void begin(code.trim().toUpperCase())
        }}
      >
        <input
          className="search new-code"
          aria-label="Code of a new model"
          placeholder="new code"
          value={code}
          onChange={(e) => setCode(e.target.value)}
        />
        <NativeSelect
          aria-label="Begin it"
          value={like}
          onChange={(e) => setLike(e.target.value)}
          data={[
            { value: '', label: 'from nothing' },
            ...models.map((g) => ({ value: g.code, label: `as ${g.code}, but` })),
          ]}
        />
        <button className="button" disabled={!/^[a-z0-9][a-z0-9-]{1,11}$/i.test(code.trim())}>
          New guide
        </button>
      </form>
      {told && <p role="status">{told}</p>}
      <Trouble error={error} />
    </div>
  )
}
