import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { newKey, send } from '../api/client'
import { FilePick } from '../parts/FilePick'
import { Trouble } from '../parts/Trouble'
import { counted } from '../words'

type Imported = {
  dryRun: boolean
  changes: { line: number; number: string; what: string }[]
  problems: { line: number; number: string; what: string }[]
  unchanged: number
}

/** Catalogue and shelf as files: what a file would change is shown before it does. */
export function CsvTools() {
  const client = useQueryClient()
  const [file, setFile] = useState<{ what: string; text: string; name: string } | null>(null)
  const load = useMutation({
    mutationFn: async ({ what, text, dryRun }: { what: string; text: string; dryRun: boolean }) =>
      (await (
        await send(
          'POST',
          `parts/${what}.csv?dry-run=${dryRun}`,
          text,
          newKey()['Idempotency-Key'],
          'text/csv',
        )
      ).json()) as Imported,
    onSuccess: (done) => done.dryRun || client.invalidateQueries({ queryKey: ['parts'] }),
  })
  const pick = (what: string) => (
    <FilePick
      label={what === 'catalogue' ? 'Catalogue in' : 'Shelf in'}
      accept=".csv,text/csv"
      onPick={async (chosen) => {
        const text = await chosen.text()
        setFile({ what, text, name: chosen.name })
        load.mutate({ what, text, dryRun: true })
      }}
    />
  )
  return (
    <>
      <details className="csv-tools">
        <summary className="button">As a file</summary>
        <div className="sheet row csv-menu">
          <a href="/api/v1/parts/catalogue.csv" className="button" download>
            Catalogue out
          </a>
          <a href="/api/v1/parts/shelf.csv" className="button" download>
            Shelf out
          </a>
          {pick('catalogue')}
          {pick('shelf')}
        </div>
      </details>
      {file && (
        <div className="sheet stack csv-result" role="status">
          <h2>{file.name}</h2>
          <Trouble error={load.error} />
          {load.data && (
            <>
              <p>
                {load.data.problems.length > 0
                  ? `${counted(load.data.problems.length, 'line', 'lines')} cannot be used; nothing is changed.`
                  : `${load.data.changes.length} ${changed(load.data.dryRun)}, ${load.data.unchanged} stay.`}
              </p>
              <ul className="small csv-lines">
                {load.data.problems.map((p) => (
                  <li key={`p${p.line}`}>
                    <span className="verdict short">✕ line {p.line}</span>{' '}
                    <span className="mono">{p.number}</span> {p.what}
                  </li>
                ))}
                {load.data.changes.map((p) => (
                  <li key={p.line}>
                    line {p.line} <span className="mono">{p.number}</span> {p.what}
                  </li>
                ))}
              </ul>
            </>
          )}
          <div className="row">
            {load.data?.dryRun && load.data.problems.length === 0 && load.data.changes.length > 0 && (
              <button
                className="button"
                onClick={() => load.mutate({ what: file.what, text: file.text, dryRun: false })}
              >
                Take it in
              </button>
            )}
            <button className="button" onClick={() => setFile(null)}>
              Close
            </button>
          </div>
        </div>
      )}
    </>
  )
}

const changed = (dryRun: boolean) => (dryRun ? 'would change' : 'changed')
