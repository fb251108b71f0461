import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, newKey, type ArrivalView, type NotedVisit } from '../api/client'
import { arrivalsQuery } from '../api/queries'
import { useMe } from '../api/me'
import { FilePick } from '../parts/FilePick'
import { HereOnly } from '../parts/HereOnly'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { toBundleFiles } from './bundle'
import { Sticks } from './FromMachine'

type Props = {
  chosen: string | null
  onChoose: (arrival: ArrivalView | null) => void
}

/** The machine introduces itself: what waits, a code to type on it, or a file from a stick. */
export function Arrivals({ chosen, onChoose }: Props) {
  const client = useQueryClient()
  const me = useMe()
  const waiting = useQuery(arrivalsQuery)
  const [made, setMade] = useState<{
    code: string
    until: string
    lines: Record<string, string>
    hereOnly: boolean
  } | null>(null)
  const [error, setError] = useState<Error | null>(null)
  const told = (waiting.data ?? []).filter((a) => a.told)
  const ask = async (what: () => Promise<void>) => {
    setError(null)
    try {
      await what()
    } catch (e) {
      setError(e as Error)
    }
  }
  const invite = () =>
    ask(async () => {
      const answer = await api.POST('/api/v1/arrivals/invites', {
        params: { header: newKey() },
        body: { minutes: 60 },
      })
      setMade(answer.data!)
    })
  const carry = (file: File) =>
    ask(async () => {
      const answer = await api.POST('/api/v1/arrivals', {
        params: { header: newKey() },
        body: { capture: { format: 'revtal-capture/1', files: await toBundleFiles(file) } },
      })
      await client.invalidateQueries({ queryKey: ['arrivals'] })
      onChoose(answer.data!)
    })
  return (
    <section className="stack arrivals" aria-label="What machines told of themselves">
      <h2>The machine tells</h2>
      {told.map((a) => (
        <button
          key={a.id}
          type="button"
          className="arrival"
          aria-pressed={a.id === chosen}
          onClick={() => onChoose(a.id === chosen ? null : a)}
        >
          <b>
            {a.told!.maker ?? 'Unknown maker'} {a.told!.product ?? 'unknown product'}
          </b>
          <span className="mono">{a.told!.serial ?? 'no serial'}</span>
          <span className="muted small">
            told <When at={a.told!.at} />
          </span>
        </button>
      ))}
      {told.length === 0 && (
        <p className="muted">
          None waits. Make a code and type its line on the machine, or carry its file here: it fills in what
          it is.
        </p>
      )}
      {made && (
        <>
          <p className="invite-code mono" aria-label="Code">
            {made.code}
          </p>
          <code className="link-once">{made.lines['linux']}</code>
          <HereOnly is={made.hereOnly} />
          <p className="muted small">
            It may send once. The code ends <When at={made.until} />.
          </p>
        </>
      )}
      <Trouble error={error} />
      <div className="row">
        <button type="button" className="button" disabled={!me} onClick={() => void invite()}>
          Make a code
        </button>
        <FilePick label="From a stick" disabled={!me} onPick={(file) => void carry(file)} />
      </div>
      <Sticks under="From a stick" />
    </section>
  )
}

/** What it told, whom it may be, and what earlier visits left. */
export function Told({ arrival, onTakeUp }: { arrival: ArrivalView; onTakeUp: (words: string) => void }) {
  const { lines, doubts, machine } = arrival.told!
  return (
    <div className="stack told">
      <ul>
        {lines.map((l) => (
          <li key={l}>{l}</li>
        ))}
      </ul>
      {doubts.map((d) => (
        <p key={d}>
          <span className="verdict remark">!</span> {d}
        </p>
      ))}
      {machine && (
        <p>
          <b>Was here before:</b>{' '}
          {machine.orders.map((o, i) => (
            <span key={o.number}>
              {i > 0 && ', '}
              <Link to="/orders/$number" params={{ number: String(o.number) }}>
                order {o.number}
              </Link>
            </span>
          ))}
        </p>
      )}
      {machine?.marks.map((m) => (
        <p key={`${m.order} ${m.slot}`}>
          <span className="verdict short">✕</span> {m.slot}, order {m.order}: {m.sentence}
        </p>
      ))}
      {machine?.sealBroken && (
        <p>
          <span className="verdict remark">!</span> Its warranty seal was broken by order {machine.sealBroken}
          .
        </p>
      )}
      {machine?.noted && <Noted noted={machine.noted} onTakeUp={onTakeUp} />}
    </div>
  )
}

/** What the machine's last visit left for this one. */
export function Noted({ noted, onTakeUp }: { noted: NotedVisit; onTakeUp: (words: string) => void }) {
  return (
    <p>
      <span className="verdict remark">!</span> Order {noted.order} left for this visit: {noted.visit.words}{' '}
      <button type="button" className="button" onClick={() => onTakeUp(noted.visit.words)}>
        That is what it is here for
      </button>
    </p>
  )
}
