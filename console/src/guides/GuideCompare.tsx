import { NativeSelect } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { compareQuery, draftQuery, revisionsQuery } from '../api/queries'
import { Trouble, Waiting } from '../parts/Trouble'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import './guides.css'
import { Name, useCalled } from '../people/Name'

/** Two states of a guide side by side, fact by fact. */
export function GuideCompare() {
  const { code } = useParams({ from: '/shell/guides/$code/compare' })
  const called = useCalled()
  useTitle(`Revisions of ${code}`)
  const { from, to } = useSearch({ from: '/shell/guides/$code/compare' })
  const navigate = useNavigate()
  const revisions = useQuery(revisionsQuery(code))
  const draft = useQuery(draftQuery(code))
  const compared = useQuery(compareQuery(code, from, to))
  if (!revisions.data) return <Waiting error={revisions.error} />
  const states = [
    ...(draft.data ? [{ value: 'draft', label: 'draft' }] : []),
    ...revisions.data.map((r) => ({
      value: String(r.revision),
      label: `revision ${r.revision}, ${called(r.by)}`,
    })),
  ]
  const go = (search: { from?: string; to?: string }) =>
    void navigate({ to: '/guides/$code/compare', params: { code }, search: { from, to, ...search } })
  return (
    <div className="page stack">
      <h1>
        <Link to="/guides/$code" params={{ code }}>
          {code}
        </Link>
        , revisions
      </h1>
      <div className="row">
        <NativeSelect
          aria-label="First state"
          value={compared.data?.from ?? from ?? ''}
          onChange={(e) => go({ from: e.target.value, to: compared.data?.to ?? to })}
          data={states}
        />
        <span>against</span>
        <NativeSelect
          aria-label="Second state"
          value={compared.data?.to ?? to ?? ''}
          onChange={(e) => go({ from: compared.data?.from ?? from, to: e.target.value })}
          data={states}
        />
      </div>
      <Trouble error={compared.error} />
      {compared.data && compared.data.differences.length === 0 && <p className="sheet">Both say the same.</p>}
      {compared.data && compared.data.differences.length > 0 && (
        <div className="sheet">
          <table className="slots-table compare">
            <thead>
              <tr>
                <th>what</th>
                <th>{compared.data.from}</th>
                <th>{compared.data.to}</th>
              </tr>
            </thead>
            <tbody>
              {compared.data.differences.map((d) => (
                <tr key={d.path}>
                  <td className="mono small path">{d.path}</td>
                  <td className={d.before === null ? 'none' : 'was'}>{d.before ?? '–'}</td>
                  <td className={d.after === null ? 'none' : 'is'}>{d.after ?? '–'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <section className="sheet stack">
        <h2>All revisions</h2>
        <ol className="revisions">
          {revisions.data.map((r) => (
            <li key={r.revision}>
              <b className="mono">{r.revision}</b> <Name id={r.by} />, <When at={r.at} />
            </li>
          ))}
        </ol>
      </section>
    </div>
  )
}
