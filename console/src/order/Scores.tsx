import { NativeSelect, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useState } from 'react'
import { send, type OrderView, type Phase, type Receipt } from '../api/client'
import { scoresQuery, useChange, useTold } from '../api/queries'
import { FilePick } from '../parts/FilePick'
import { Trouble } from '../parts/Trouble'
import { driveSize, size } from '../words'
import { may } from './acts'
import { Quartiles } from './Quartiles'
import { TrialPart } from './TrialPart'

// The plotting library is large, and wanted here alone.
const LoadPlots = lazy(() => import('./LoadPlots'))

/** Benchmarks and load, before and after, and where this machine stands among its like. */
export function Scores({ order }: { order: OrderView }) {
  const view = useQuery(scoresQuery(order)).data
  return (
    <>
      {view && view.scores.length > 0 && (
        <table className="slots-table">
          <thead>
            <tr>
              <th>score</th>
              <th className="num">before</th>
              <th className="num">after</th>
              <th className="num">change</th>
              <th>among its like</th>
            </tr>
          </thead>
          <tbody>
            {view.scores.map((s) => (
              <tr key={`${s.name} ${s.unit}`}>
                <td>
                  {s.name}{' '}
                  <span className="muted small">
                    {s.higherIsBetter ? 'higher is better' : 'lower is better'}
                  </span>
                </td>
                <td className="num">{s.before === null ? '' : `${s.before} ${s.unit}`}</td>
                <td className="num">{s.after === null ? '' : `${s.after} ${s.unit}`}</td>
                <td className="num">
                  {s.percent !== null && (
                    <span className={`verdict ${s.better === false ? 'short' : 'as-planned'}`}>
                      {s.percent > 0 ? '+' : ''}
                      {s.percent} % {s.better === null ? '' : s.better ? 'better' : 'worse'}
                    </span>
                  )}
                </td>
                <td>
                  {s.among ? (
                    <Quartiles
                      of={s.among}
                      at={s.after}
                      unit={s.unit}
                      place={s.place}
                      model={order.model.code}
                    />
                  ) : (
                    <span className="muted small">fewer than five</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {view && view.takes.length > 1 && <Takes takes={view.takes} />}
      {view?.load && <Load load={view.load} />}
      {view && view.watched.length > 0 && (
        <Suspense fallback={<p className="muted">Drawing…</p>}>
          <LoadPlots watched={view.watched} />
        </Suspense>
      )}
      <TrialPart order={order} />
      {may(order, 'take-scores') && <Tell order={order} />}
    </>
  )
}

type Take = { phase: Phase; scores: { name: string; unit: string; value: number }[]; note: string | null }

/** All that were taken: the table above has the last of each phase. */
function Takes({ takes }: { takes: Take[] }) {
  return (
    <details>
      <summary className="muted">All {takes.length} takes</summary>
      <ol className="plain">
        {takes.map((t, i) => (
          <li key={i}>
            {t.phase}:{' '}
            <span className="mono">{t.scores.map((s) => `${s.name} ${s.value} ${s.unit}`).join(', ')}</span>
            {t.note && <span className="muted"> – {t.note}</span>}
          </li>
        ))}
      </ol>
    </details>
  )
}

type LoadChange = NonNullable<
  NonNullable<Awaited<ReturnType<NonNullable<ReturnType<typeof scoresQuery>['queryFn']>>>>['load']
>

function Load({ load }: { load: LoadChange }) {
  const rows: [string, string, string][] = [
    ['in use', used(load.before), used(load.after)],
    ['paged out', bytes(load.before?.pagedOutBytes), bytes(load.after?.pagedOutBytes)],
    ['storage free', free(load.before?.storageFreeBytes), free(load.after?.storageFreeBytes)],
  ]
  return (
    <>
      <table className="slots-table">
        <thead>
          <tr>
            <th>load</th>
            <th className="num">before</th>
            <th className="num">after</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, before, after]) => (
            <tr key={name}>
              <td>{name}</td>
              <td className="num">{before}</td>
              <td className="num">{after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {load.unlike && (
        <p>
          <span className="verdict remark">!</span> {load.unlike}
        </p>
      )}
    </>
  )
}

const bytes = (b: number | null | undefined) => (b == null ? '–' : size(b))
const free = (b: number | null | undefined) => (b == null ? '–' : driveSize(b))
const used = (l: LoadChange['before']) =>
  l?.inUseBytes == null
    ? '–'
    : `${size(l.inUseBytes)}${l.inUseShare === null ? '' : `, ${Math.round(l.inUseShare)} %`}`

function Tell({ order }: { order: OrderView }) {
  const [f, setF] = useState({
    name: '',
    unit: '',
    value: '',
    better: 'higher',
    phase: (order.after ? 'after' : 'before') as Phase,
  })
  const set = (field: keyof typeof f) => (e: { target: { value: string } }) =>
    setF({ ...f, [field]: e.target.value })
  const change = useTold(order.number)
  const file = useChange(async (picked: File, header) => ({
    data: (await (
      await send(
        'POST',
        `orders/${order.number}/scores/file?phase=${f.phase}`,
        await picked.text(),
        header['Idempotency-Key'],
        'text/plain',
      )
    ).json()) as Receipt,
  }))
  return (
    <details>
      <summary className="muted">Write a score down</summary>
      <div className="row score-form">
        <NativeSelect aria-label="Phase" value={f.phase} onChange={set('phase')} data={['before', 'after']} />
        <TextInput aria-label="Score" placeholder="Copy" value={f.name} onChange={set('name')} />
        <TextInput
          aria-label="Value"
          placeholder="18200"
          inputMode="decimal"
          value={f.value}
          onChange={set('value')}
        />
        <TextInput aria-label="Unit" placeholder="MB/s" value={f.unit} onChange={set('unit')} />
        <NativeSelect
          aria-label="Better"
          value={f.better}
          onChange={set('better')}
          data={[
            { value: 'higher', label: 'higher is better' },
            { value: 'lower', label: 'lower is better' },
          ]}
        />
        <button
          className="button"
          disabled={
            change.isPending ||
            !f.name.trim() ||
            !f.unit.trim() ||
            Number.isNaN(Number(f.value)) ||
            !f.value.trim()
          }
          onClick={() =>
            change.send({
              path: 'scores',
              body: {
                phase: f.phase,
                scores: [
                  {
                    name: f.name,
                    unit: f.unit,
                    value: Number(f.value),
                    higherIsBetter: f.better === 'higher',
                  },
                ],
              },
            })
          }
        >
          Write it down
        </button>
      </div>
      <p className="row small muted">
        or a file with name, unit, value, better:
        <FilePick
          label="CSV or JSON"
          accept=".csv,.json,text/csv,application/json"
          onPick={(picked) => file.send(picked)}
        />
      </p>
      <Trouble error={change.error ?? file.error} />
    </details>
  )
}
