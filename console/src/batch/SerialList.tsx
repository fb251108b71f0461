import { Textarea } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import type { BatchListLine } from '../api/client'
import { FilePick } from '../parts/FilePick'
import { Trouble } from '../parts/Trouble'
import { counted } from '../words'
import './batch.css'

const columns = 'A first line that names columns may be: serial, build, accessories, condition.'

/** Serials one after another, as a scanner types them, or a list from a file; what stands against one is told. */
export function SerialList(props: {
  text: string
  lines: BatchListLine[]
  error: Error | null
  onChange: (text: string) => void
}) {
  const { text, lines, onChange } = props
  const told = lines.filter((l) => l.trouble !== null || l.open.length > 0 || l.noted !== null)
  return (
    <div className="stack" style={{ gap: 8 }}>
      <Textarea
        label="Serials, one a line"
        description={`Scan one after another, or paste a list. ${columns}`}
        required
        autosize
        minRows={4}
        maxRows={14}
        spellCheck={false}
        classNames={{ input: 'mono' }}
        value={text}
        onChange={(e) => onChange(e.target.value)}
      />
      <div className="row">
        <b role="status">{counted(lines.length, 'machine', 'machines')}</b>
        <FilePick
          label="From a file"
          accept=".csv,.txt,text/csv,text/plain"
          onPick={(file) => void file.text().then(onChange)}
        />
      </div>
      <Trouble error={props.error} />
      {told.length > 0 && (
        <ul className="serial-lines">
          {told.map((l) => (
            <li key={l.line}>
              {l.trouble !== null && <span className="verdict short">✕ </span>}
              line {l.line} <span className="mono">{l.machine.serial}</span> {l.trouble}
              {l.open.map((n) => (
                <span key={n}>
                  <span className="verdict remark">!</span> open already:{' '}
                  <Link to="/orders/$number" params={{ number: String(n) }}>
                    order {n}
                  </Link>{' '}
                </span>
              ))}
              {l.noted && <span>noted for this visit: {l.noted.visit.words}</span>}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
