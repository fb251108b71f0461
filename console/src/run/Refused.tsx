import type { Said } from '../away/queue'
import { SaidLine } from '../away/SaidLine'

type Props = {
  said: Said[]
  shown: string | undefined
  again: (key: string) => void
  drop: (key: string) => void
}

/** What the service did not take, said elsewhere than at the step in sight: shown until somebody decides. */
export function Refused({ said, shown, again, drop }: Props) {
  const list = said.filter((s) => s.refused && s.step !== shown)
  if (list.length === 0) return null
  return (
    <section className="refused" role="alert">
      <h2>Not taken</h2>
      {list.map((s) => (
        <div key={s.key} className="row">
          <SaidLine said={s} />
          <button className="button" onClick={() => again(s.key)}>
            Send again
          </button>
          <button className="button" onClick={() => drop(s.key)}>
            Drop it
          </button>
        </div>
      ))}
    </section>
  )
}
