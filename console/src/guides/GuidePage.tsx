import { useQuery } from '@tanstack/react-query'
import { useParams } from '@tanstack/react-router'
import { guideQuery } from '../api/queries'
import { Waiting } from '../parts/Trouble'
import { Cover } from '../run/Cover'
import { size } from '../words'
import '../order/order.css'

/** What a technician wants to know of a model in a minute. */
export function GuidePage() {
  const { code } = useParams({ from: '/shell/guides/$code' })
  const query = useQuery(guideQuery(code))
  if (!query.data) return <Waiting error={query.error} />
  const { guide, revision } = query.data
  const { model, memory } = guide
  return (
    <div className="page stack">
      <h1>
        {model.maker} {model.name} <span className="mono muted">{model.code}</span>
      </h1>
      <p className="muted">
        {model.kind}
        {model.built && `, ${model.built.replace('..', ' to ')}`}, revision {revision}
      </p>
      {model.tellApart && (
        <p>
          <b>Tell apart:</b> {model.tellApart}
        </p>
      )}
      <section className="sheet stack">
        <h2>Memory</h2>
        <p>
          {memory.generation} {memory.module}, {memory.speeds.join(' and ')} MT/s, stated at most{' '}
          {size(memory.statedMax)}
        </p>
        <table className="slots-table">
          <thead>
            <tr>
              <th>slot</th>
              <th>channel</th>
              <th className="num">at most</th>
              <th>reached by</th>
              <th>hands</th>
              <th>firmware calls it</th>
            </tr>
          </thead>
          <tbody>
            {memory.slots.map((s) => (
              <tr key={s.id}>
                <td className="mono">{s.id}</td>
                <td>{s.channel}</td>
                <td className="num">{s.max ? size(s.max) : ''}</td>
                <td>{s.soldered ? 'soldered' : (s.reach ?? 'nothing')}</td>
                <td>
                  {[s.angle !== null && `${s.angle}°`, s.latch, s.press, s.notch]
                    .filter(Boolean)
                    .join(', ')
                    .replaceAll('-', ' ')}
                </td>
                <td className="mono">{s.reportsAs}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {guide.removals.map((r) => (
        <section key={r.id} className="sheet guide-removal">
          <div className="stack">
            <h2>
              {r.title} <span className="muted small">{r.minutes} min</span>
            </h2>
            <p className="muted">
              after {r.needs.map((n) => (n === 'isolated' ? 'power is isolated' : n)).join(', ') || 'nothing'}
            </p>
            {r.precautions.map((p) => (
              <p key={p.text} className="precaution">
                <b>{p.kind}</b>
                <span>{p.text}</span>
              </p>
            ))}
            {r.open && <p>{r.open}</p>}
            {r.close && <p className="muted">{r.close}</p>}
          </div>
          <Cover groups={r.fasteners} />
        </section>
      ))}
      {guide.traps.length > 0 && (
        <section className="sheet stack">
          <h2>Traps</h2>
          {guide.traps.map((t) => (
            <p key={t.text}>
              <span className="mono muted">{t.at}</span> {t.text}
            </p>
          ))}
        </section>
      )}
    </div>
  )
}
