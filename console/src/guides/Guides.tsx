import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { guidesQuery } from '../api/queries'
import { Waiting } from '../parts/Trouble'
import '../order/order.css'

/** The models that the shop knows. */
export function Guides() {
  const guides = useQuery(guidesQuery)
  if (!guides.data) return <Waiting error={guides.error} />
  return (
    <div className="page stack">
      <h1>Guides</h1>
      {guides.data.length === 0 ? (
        <p className="sheet">No guide yet. A lead publishes one with: revtal guide publish FILE</p>
      ) : (
        <div className="sheet">
          <table className="slots-table">
            <thead>
              <tr>
                <th>code</th>
                <th>model</th>
                <th>kind</th>
                <th className="num">slots</th>
                <th>tell apart</th>
                <th className="num">revision</th>
              </tr>
            </thead>
            <tbody>
              {guides.data.map((g) => (
                <tr key={g.code}>
                  <td className="mono">
                    <Link to="/guides/$code" params={{ code: g.code }}>
                      {g.code}
                    </Link>
                  </td>
                  <td>
                    {g.maker} {g.name}
                  </td>
                  <td>{g.kind}</td>
                  <td className="num">{g.slots}</td>
                  <td>{g.tellApart}</td>
                  <td className="num">{g.revision}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  )
}
