import type { ReactNode } from 'react'
import type { Report } from '../api/client'
import { VerdictMark } from '../parts/VerdictMark'
import { type Drawn, PositionDrawing } from '../positions/PositionDrawing'
import { exact, size } from '../words'
import '../parts/customer.css'
import './report.css'

type Slot = Report['slots'][number]

type Level = 'h1' | 'h2' | 'h3'

/**
 * A report as whoever reads it sees it: the verdict first, then what it rests on.
 * @param level Of its headings, below that of the page.
 */
export function ReportSheet({ report, level }: { report: Report; level: Level }) {
  return (
    <div className="stack report">
      <p className="report-verdict">
        <VerdictMark verdict={report.verdict} /> {report.sentence}
      </p>
      {report.slots.length > 0 && (
        <Section level={level} title="Memory">
          <PositionDrawing positions={report.slots.map(drawn)} compact />
          <p>
            {size(report.installed.before)} before, <b>{size(report.installed.after)} now</b>
            {report.usable.after !== null && `, ${size(report.usable.after)} of it for the system to use`}.
          </p>
        </Section>
      )}
      {report.drives.length > 0 && <Drives level={level} drives={report.drives} />}
      <Lines level={level} title="What was done" lines={report.done} />
      {report.fitted.length > 0 && <Fitted level={level} parts={report.fitted} />}
      {report.figures.length > 0 && <Figures level={level} figures={report.figures} />}
      <Lines level={level} title="What was found" lines={report.found} />
      <Lines level={level} title="What was let be" lines={report.letBe} />
      <Lines level={level} title="What came out" lines={report.cameOut} />
      <Lines level={level} title="What was watched" lines={report.watched ? [report.watched] : []} />
      <Lines level={level} title="For the next visit" lines={report.later ? [report.later] : []} />
    </div>
  )
}

/** Whose machine it is, above the sheet where the page does not say so. */
export function ReportHead({ report, level: Title }: { report: Report; level: Level }) {
  return (
    <>
      <p className="muted">{report.shop}</p>
      <Title>{report.machine}</Title>
      <p>
        Order <b className="mono">{report.order}</b>, {report.customer}
        {report.serial && (
          <>
            , <span className="mono">{report.serial}</span>
          </>
        )}
        {report.handedBackAt && <span className="muted">, handed back {exact(report.handedBackAt)}</span>}
      </p>
      <p>You asked: {report.complaint}</p>
    </>
  )
}

const drawn = (s: Slot): Drawn => ({
  slot: { id: s.slot },
  before: { spoken: s.before, module: held(s.beforeBytes) },
  planned: {
    use: 'keep',
    from: null,
    stays: s.stays,
    module: held(s.plannedBytes),
    before: { known: s.plannedBytes !== null },
  },
  after: { spoken: s.after, module: held(s.afterBytes) },
  match: s.match,
})

const held = (bytes: number | null) => (bytes ? { size: bytes } : null)

function Section({ level: Title, title, children }: { level: Level; title: string; children: ReactNode }) {
  return (
    <section className="stack">
      <Title>{title}</Title>
      {children}
    </section>
  )
}

function Lines({ level, title, lines }: { level: Level; title: string; lines: string[] }) {
  if (lines.length === 0) return null
  return (
    <Section level={level} title={title}>
      <ul className="plain">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </Section>
  )
}

function Drives({ level, drives }: { level: Level; drives: Report['drives'] }) {
  return (
    <Section level={level} title="Drives">
      <ul className="plain">
        {drives.map((d) => (
          <li key={d.bay}>
            <b className="mono">{d.bay}</b> {d.before ?? 'empty'} before, <b>{d.after ?? driveGone(d)}</b>
            {d.after && ' now'}
            <div className="muted small">
              {[d.part, d.serial && `serial ${d.serial}`, d.health].filter(Boolean).join(', ')}
            </div>
          </li>
        ))}
      </ul>
    </Section>
  )
}

const driveGone = (d: Report['drives'][number]) =>
  d.match === 'unknown' ? 'not read' : d.planned ? 'not seen' : 'empty now'

function Fitted({ level, parts }: { level: Level; parts: Report['fitted'] }) {
  return (
    <Section level={level} title="What was fitted">
      <ul className="plain">
        {parts.map((p) => (
          <li key={p.position}>
            <b className="mono">{p.position}</b> {p.name}
            {p.number && <span className="mono"> {p.number}</span>}
            <div className="muted small">
              {[
                p.serial ? `serial ${p.serial}` : 'serial not known',
                p.warrantyUntil
                  ? `warranty until ${p.warrantyUntil}`
                  : p.warrantyMonths && `warranty ${p.warrantyMonths} months from the hand-back`,
              ]
                .filter(Boolean)
                .join(', ')}
            </div>
          </li>
        ))}
      </ul>
    </Section>
  )
}

function Figures({ level, figures }: { level: Level; figures: Report['figures'] }) {
  return (
    <Section level={level} title="What was measured besides">
      <table className="figures">
        <thead>
          <tr>
            <th className="figure-name">figure</th>
            <th>before</th>
            <th>after</th>
            <th>change</th>
          </tr>
        </thead>
        <tbody>
          {figures.map((f) => (
            <tr key={f.name + f.unit}>
              <td>
                {f.name}, {f.unit}
              </td>
              <td className="mono">{f.before ?? '–'}</td>
              <td className="mono">{f.after ?? '–'}</td>
              <td className="mono">{f.percent !== null && change(f.percent)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  )
}

const change = (percent: number) => `${percent > 0 ? '+' : '−'}${Math.abs(percent)} %`
