import { WhenSaid } from './WhenSaid'
import type { Said } from './store'
import { wordsIn } from './words'
import { KeptPhoto } from './KeptPhoto'
import { useCalled } from '../people/Name'

/** Both sides of what was not taken: what was said here, and what the service says to it. */
export function SaidLine({ said }: { said: Said }) {
  const called = useCalled()
  const words = wordsIn(said.body)
  return (
    <div className="said-line">
      <p>
        <b>{said.title}</b>
        {words && ` ${words}`}
      </p>
      <p className="muted small">
        Said here{said.by && ` by ${called(said.by)}`}, <WhenSaid at={said.at + said.ahead} />
      </p>
      {said.body instanceof Blob && <KeptPhoto photo={said.body} />}
      {said.refused && (
        <p>
          <span className="muted">The service:</span> {said.refused.detail}
        </p>
      )}
    </div>
  )
}
