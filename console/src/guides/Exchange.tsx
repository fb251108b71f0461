import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, newKey, type ExchangeFile, type MergeFact } from '../api/client'
import { Trouble } from '../parts/Trouble'
import { counted, exact, size } from '../words'

type Choice = Record<string, 'ours' | 'theirs'>

// As the service would merge it where nobody says otherwise.
const usual = (fact: MergeFact) => (fact.changed === 'theirs' ? 'theirs' : 'ours')

const said: Record<MergeFact['changed'], string> = {
  theirs: 'they changed it',
  ours: 'we changed it',
  both: 'both changed it',
}

/** Another shop's guide beside ours: what they tell otherwise, whose is taken, and what theirs rests on. */
export function Exchange({ file, onClose }: { file: ExchangeFile; onClose: () => void }) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const [choice, setChoice] = useState<Choice>({})
  const compared = useQuery({
    queryKey: ['compare', 'exchange', file.code, file.at, file.shop],
    queryFn: async () => (await api.POST('/api/v1/exchange/compare', { body: file })).data!,
    retry: false,
  })
  const facts = compared.data?.facts ?? []
  const chosen = (fact: MergeFact) => choice[fact.path] ?? usual(fact)
  const merge = useMutation({
    mutationFn: async (header: ReturnType<typeof newKey>) => {
      const pick = (side: 'ours' | 'theirs') =>
        facts.filter((f) => chosen(f) === side && usual(f) !== side).map((f) => f.path)
      await api.POST('/api/v1/exchange/merge', {
        params: { header },
        body: { file, takeTheirs: pick('theirs'), keepOurs: pick('ours') },
      })
    },
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['draft'] })
      await navigate({ to: '/guides/$code/edit', params: { code: file.code } })
    },
  })
  const evidence = file.evidence
  return (
    <section className="sheet stack" aria-labelledby="exchange">
      <div className="row">
        <h2 id="exchange">
          <span className="mono">{file.code}</span> of {file.shop}
        </h2>
        <span className="muted">
          written {exact(file.at)}
          {compared.data &&
            (compared.data.ours === null
              ? ', new here'
              : compared.data.common === null
                ? ', nothing in common with ours'
                : `, in common: our revision ${compared.data.common}`)}
        </span>
      </div>
      <p>
        {counted(evidence.runs, 'run is', 'runs are')} through there
        {evidence.ways[0] && `, ${evidence.ways[0].median} min in the middle by ${evidence.ways[0].way}`}
        {evidence.proved !== null &&
          `; ${size(evidence.proved)} proved by ${evidence.provedBy} of their orders, by none of ours`}
        .
      </p>
      {facts.length > 0 && (
        <table className="slots-table compare">
          <thead>
            <tr>
              <th>what</th>
              <th>in common</th>
              <th>ours</th>
              <th>theirs</th>
              <th>changed by</th>
            </tr>
          </thead>
          <tbody>
            {facts.map((f) => (
              <tr key={f.path}>
                <td className="mono small path">{f.path}</td>
                <td className="muted">{f.common ?? '–'}</td>
                {(['ours', 'theirs'] as const).map((side) => (
                  <td key={side}>
                    <label className="row take-fact">
                      <input
                        type="radio"
                        name={f.path}
                        aria-label={`${f.path}: ${side}`}
                        checked={chosen(f) === side}
                        onChange={() => setChoice({ ...choice, [f.path]: side })}
                      />
                      <span className={chosen(f) === side ? 'is' : 'was'}>{f[side] ?? 'not there'}</span>
                    </label>
                  </td>
                ))}
                <td className={f.changed === 'both' ? 'off' : undefined}>{said[f.changed]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {compared.data && compared.data.ours !== null && facts.length === 0 && <p>Both say the same.</p>}
      <Trouble error={compared.error ?? merge.error} />
      <div className="row">
        {compared.data && (compared.data.ours === null || facts.length > 0) && (
          <button className="button now" disabled={merge.isPending} onClick={() => merge.mutate(newKey())}>
            Make a draft of both
          </button>
        )}
        <button className="button" onClick={onClose}>
          Leave it
        </button>
      </div>
    </section>
  )
}
