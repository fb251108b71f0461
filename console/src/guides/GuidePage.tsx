import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import type { Guide, MemorySlot, Removal } from '../api/client'
import { guideQuery } from '../api/queries'
import { Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { BoardDrawing } from '../positions/BoardDrawing'
import { Cover } from '../run/Cover'
import { Precaution } from '../run/Precaution'
import { duration, size, spoken } from '../words'
import { SketchBanner } from './SketchBanner'
import { StartsShown } from './StartsShown'
import { Suggestions } from './Suggestions'
import './guides.css'

/** What a technician wants to know of a model in a minute: facts left, drawing right, traps where they happen. */
export function GuidePage() {
  const { code } = useParams({ from: '/shell/guides/$code' })
  useTitle(code)
  const query = useQuery(guideQuery(code))
  const [variant, setVariant] = useState<string | null>(null)
  if (!query.data) return <Waiting error={query.error} />
  const { guide: model, revision } = query.data
  const build = model.variants.find((v) => v.id === variant)
  const guide = build?.guide ?? model
  return (
    <div className="page stack">
      <div className="row guides-head">
        <h1>
          {guide.model.maker} {guide.model.name} <span className="mono muted">{variant ?? code}</span>
        </h1>
        <span className="muted">
          {guide.model.kind}
          {guide.model.built && `, ${guide.model.built.replace('..', ' to ')}`}, revision {revision}
        </span>
        <span className="row guide-ways">
          <Link to="/guides/$code/edit" params={{ code }} className="button">
            Edit
          </Link>
          <Link to="/guides/$code/compare" params={{ code }} search={{}} className="button">
            Revisions
          </Link>
          <a href={`/api/v1/guides/${code}/exchange`} download={`${code}.json`} className="button">
            For another shop
          </a>
        </span>
      </div>
      {model.model.sketch && <SketchBanner code={code} />}
      {model.variants.length > 0 && (
        <div className="row" role="group" aria-label="Build">
          {[{ id: null, tellApart: guide.model.tellApart }, ...model.variants].map((v) => (
            <button
              key={v.id}
              className={v.id === variant ? 'button chosen' : 'button'}
              aria-pressed={v.id === variant}
              onClick={() => setVariant(v.id)}
            >
              {v.id ?? code}
            </button>
          ))}
          {build && <span>{build.tellApart}</span>}
        </div>
      )}
      {!build && guide.model.tellApart && (
        <p>
          <b>Tell apart:</b> {guide.model.tellApart}
        </p>
      )}
      <section className="sheet guide-top">
        <div className="stack">
          <Facts guide={guide} />
          {guide.memory.slots.length > 0 && <Slots guide={guide} />}
          {guide.drives.length > 0 && <Bays guide={guide} />}
        </div>
        <BoardDrawing slots={guide.memory.slots} bays={guide.drives} />
      </section>
      <section className="sheet stack">
        <h2>Make it safe</h2>
        {guide.isolate.length === 0 && (
          <p className="muted">Nobody wrote it down: what is usual of a {guide.model.kind} is done.</p>
        )}
        <ol className="isolate">
          {guide.isolate.map((i) => (
            <li key={i.kind}>
              {i.sentence}
              {i.note && <span className="muted"> {i.note}</span>}
            </li>
          ))}
        </ol>
        <Traps guide={guide} at="isolate" />
      </section>
      {guide.removals.map((r) => (
        <RemovalSheet key={r.id} guide={guide} removal={r} />
      ))}
      <section className="sheet stack">
        <h2>First start</h2>
        {guide.firstStart.length === 0 && <p className="muted">Nobody wrote down what it shows.</p>}
        <ul className="signs">
          {guide.firstStart.map((s) => (
            <li key={s.sees}>
              <b className={s.means === 'normal' ? 'verdict as-planned' : 'verdict short'}>
                {s.means === 'normal' ? '✓ normal' : `✕ ${spoken(s.means)}`}
              </b>
              <span>
                {s.sees}
                {s.lasts && `, up to ${duration(s.lasts)}`}
                {s.do && <b>: {s.do}</b>}
              </span>
            </li>
          ))}
        </ul>
        {guide.firmware && (
          <p>
            <b>Firmware:</b> {guide.firmware.enter}
            {guide.firmware.ratedSpeed && `; rated speed: ${guide.firmware.ratedSpeed}`}
          </p>
        )}
        {guide.measureOpen && (
          <p>
            <b>With the case open:</b> {guide.measureOpen}
          </p>
        )}
        {guide.neverMeasureOpen && (
          <p>
            <b>Never with the case open:</b> {guide.neverMeasureOpen}
          </p>
        )}
        <Traps guide={guide} at="start" />
        <Traps guide={guide} at="measure" />
      </section>
      <Suggestions code={code} />
      <StartsShown code={code} />
    </div>
  )
}

function Facts({ guide }: { guide: Guide }) {
  const { memory } = guide
  const groups = guide.removals.flatMap((r) => r.fasteners)
  const bits = [...new Set(groups.map((g) => g.driver).filter((d) => d !== 'hand'))].sort()
  const tools = [...new Set(guide.removals.flatMap((r) => r.pry.map((p) => p.tool)))]
  return (
    <dl className="facts">
      <dt>memory</dt>
      <dd>
        {[memory.generation, memory.module].filter(Boolean).join(' ') || 'generation and form not known'}
        {memory.speeds.length > 0 && (
          <>
            , <span className="mono">{memory.speeds.join(', ')} MT/s</span>
          </>
        )}
      </dd>
      <dt>at most</dt>
      <dd>
        {memory.statedMax === null ? (
          'not known'
        ) : (
          <>
            <b className="mono">{size(memory.statedMax)}</b> stated
          </>
        )}
        {memory.confirmedMax && (
          <>
            , <b className="mono">{size(memory.confirmedMax.size)}</b> confirmed by order{' '}
            {memory.confirmedMax.orders.join(', ')}
          </>
        )}
      </dd>
      {memory.supportedTotals.length > 0 && (
        <>
          <dt>totals listed</dt>
          <dd className="mono">{memory.supportedTotals.map((t) => size(t)).join(', ')}</dd>
        </>
      )}
      {memory.pairing && memory.pairing !== 'any' && (
        <>
          <dt>pairing</dt>
          <dd>{spoken(memory.pairing)}</dd>
        </>
      )}
      {Object.keys(memory.populate.lines).length > 0 && (
        <>
          <dt>fill</dt>
          <dd>
            {Object.entries(memory.populate.lines).map(([n, slots]) => (
              <span key={n} className="fill">
                {n}: <b className="mono">{slots.join(' ')}</b>
              </span>
            ))}
          </dd>
        </>
      )}
      {memory.populate.any && (
        <>
          <dt>fill</dt>
          <dd>any slot</dd>
        </>
      )}
      {memory.neverEmpty.length > 0 && (
        <>
          <dt>never empty</dt>
          <dd>
            <b className="mono">{memory.neverEmpty.join(' ')}</b>, or it does not start
          </dd>
        </>
      )}
      <dt>tools</dt>
      <dd>{[...bits, ...tools].join(', ') || 'none'}</dd>
    </dl>
  )
}

/** What must come off, by its title. */
const way = (guide: Guide, removal: string | null): string =>
  removal === null
    ? 'nothing'
    : removal === 'unknown'
      ? 'not known yet'
      : (guide.removals.find((r) => r.id === removal)?.title ?? removal)

const hands = (s: MemorySlot) =>
  [
    s.below && `under ${s.below}`,
    s.angle !== null && `${s.angle}°`,
    s.latch && spoken(s.latch),
    s.press === 'hold-latches-open' && 'hold the latches open',
    s.notch,
    s.padUnder !== null && `pad ${s.padUnder} mm under it`,
    s.padOn !== null && `pad ${s.padOn} mm on it`,
    s.seated && `home when ${s.seated}`,
  ]
    .filter(Boolean)
    .join('; ')

function Slots({ guide }: { guide: Guide }) {
  return (
    <table className="slots-table">
      <thead>
        <tr>
          <th>slot</th>
          <th>channel</th>
          <th className="num">at most</th>
          <th>reached by</th>
          <th>hands</th>
        </tr>
      </thead>
      <tbody>
        {guide.memory.slots.map((s) => (
          <tr key={s.id}>
            <td className="mono">
              <b>{s.id}</b>
            </td>
            <td>
              {s.channel} {s.label && <span className="muted">{s.label}</span>}
            </td>
            <td className="num">{s.max ? size(s.max) : ''}</td>
            <td>{s.soldered ? 'soldered' : way(guide, s.reach)}</td>
            <td className="small">{hands(s)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Bays({ guide }: { guide: Guide }) {
  return (
    <table className="slots-table">
      <thead>
        <tr>
          <th>bay</th>
          <th>form</th>
          <th>link</th>
          <th>reached by</th>
          <th>hands</th>
        </tr>
      </thead>
      <tbody>
        {guide.drives.map((d) => (
          <tr key={d.id}>
            <td className="mono">
              <b>{d.id}</b>
            </td>
            <td>
              {d.form}
              {d.key && ` key ${d.key}`}
              {d.boots && ', boots'}
            </td>
            <td>{d.link}</td>
            <td>{way(guide, d.reach)}</td>
            <td className="small">
              {[d.hold, d.standoff, d.pad !== null && `pad ${d.pad} mm`, d.port && `cable to ${d.port}`]
                .filter(Boolean)
                .join('; ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function RemovalSheet({ guide, removal: r }: { guide: Guide; removal: Removal }) {
  return (
    <section className="sheet guide-removal">
      <div className="stack">
        <h2>
          {r.title} <span className="muted small">{r.minutes} min</span>
        </h2>
        <p className="muted">
          after{' '}
          {r.needs.map((n) => (n === 'isolated' ? 'power is isolated' : way(guide, n))).join(', ') ||
            'nothing'}
          {r.takesOut.length > 0 && `; takes out ${r.takesOut.join(', ')}`}
          {r.isolates && '; only then is the board without power'}
        </p>
        {r.precautions
          .filter((p) => p.when !== 'close')
          .map((p) => (
            <Precaution key={p.text} kind={p.kind} text={p.text} />
          ))}
        {r.open && (
          <p>
            <b>Off:</b> {r.open}
          </p>
        )}
        {r.fasteners
          .filter((f) => f.byHand || f.exactFit || f.order)
          .map((f) => (
            <p key={f.group}>
              <b>{f.group}:</b>{' '}
              {[
                f.order,
                f.byHand && 'by hand, no powered driver',
                f.exactFit && `${f.driver} and no other bit`,
              ]
                .filter(Boolean)
                .join('; ')}
            </p>
          ))}
        {r.clips
          .filter((c) => c.order)
          .map((c) => (
            <p key={c.order}>
              <b>Clips:</b> {c.order}
            </p>
          ))}
        <Traps guide={guide} at={`open.${r.id}`} />
        {r.cables.length > 0 && (
          <p>
            <b>Cables:</b> {r.cables.join('; ')}
          </p>
        )}
        {r.padsStay && (
          <p>
            <b>Pads:</b> {r.padsStay}
          </p>
        )}
        {(r.close || r.orient || r.sitsRight) && (
          <p>
            <b>Back:</b>{' '}
            {[r.close, r.orient, r.sitsRight && `It sits right when ${r.sitsRight}.`]
              .filter(Boolean)
              .join(' ')}
          </p>
        )}
        {r.precautions
          .filter((p) => p.when === 'close')
          .map((p) => (
            <Precaution key={p.text} kind={p.kind} text={p.text} />
          ))}
        <Traps guide={guide} at={`close.${r.id}`} />
        {guide.memory.slots
          .filter((s) => s.reach === r.id)
          .map((s) => (
            <Traps key={s.id} guide={guide} at={`fit.${s.id}`} />
          ))}
      </div>
      <div className="stack">
        <Cover fasteners={r.fasteners} shapes={r.shapes} clips={r.clips} pry={r.pry} face={r.face} />
        {[...r.pictures.open, ...r.pictures.close].map((hash) => (
          <img
            key={hash}
            src={`/api/v1/pictures/${hash}?small=true`}
            alt={`Picture of the ${r.title}`}
            className="step-picture"
          />
        ))}
      </div>
    </section>
  )
}

/** The traps that stand at this step, or at all of its kind: the guide itself says which. */
function Traps({ guide, at }: { guide: Guide; at: string }) {
  return (guide.trapsAt[at] ?? []).map((t) => <Precaution key={t} kind="trap" text={t} />)
}
