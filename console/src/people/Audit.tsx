import { useInfiniteQuery } from '@tanstack/react-query'
import { auditQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'

/** Who came in, who could not, and what leads did about people. */
export function Audit() {
  const audit = useInfiniteQuery(auditQuery)
  return (
    <section className="sheet stack" aria-labelledby="audit">
      <h2 id="audit">Who came in, and what was done about people</h2>
      <table className="slots-table audit">
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>What</th>
            <th>About</th>
            <th>From</th>
          </tr>
        </thead>
        <tbody>
          {items(audit).map((line) => (
            <tr key={line.position}>
              <td>
                <When at={line.at} />
              </td>
              <td className="mono">{line.by}</td>
              <td>{line.what.replaceAll('-', ' ')}</td>
              <td>{line.about}</td>
              <td className="mono">{line.from}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <More list={audit} />
      {audit.error && <Trouble error={audit.error} />}
    </section>
  )
}
