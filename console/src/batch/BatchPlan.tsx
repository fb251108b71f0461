import { NativeSelect } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { BatchView } from '../api/client'
import { Trouble } from '../parts/Trouble'
import { counted, money } from '../words'
import { batchPreviewQuery, ordersFor, useBatchChange } from './useBatch'

/** One machine is planned on its own page; then the others are planned like it, with what differs told first. */
export function BatchPlan({ batch }: { batch: BatchView }) {
  const wanting = ordersFor(batch, 'set-plan')
  const planned = batch.machines.filter((m) => m.plan !== null)
  const unplanned = wanting.filter((n) => planned.every((p) => p.card.number !== n))
  const [chosen, setChosen] = useState<number | null>(null)
  if (unplanned.length === 0) return null
  const like = chosen ?? planned[0]?.card.number ?? null
  return (
    <section className="sheet stack" aria-labelledby="plan-alike">
      <h2 id="plan-alike">One plan for all</h2>
      {like === null ? (
        <p className="row">
          <Link to="/orders/$number/plan" params={{ number: String(unplanned[0]) }} className="button now">
            Plan {unplanned[0]} first
          </Link>
          <span>The others are planned like it, and what differs is told before.</span>
        </p>
      ) : (
        <>
          {planned.length > 1 && (
            <NativeSelect
              label="Like which machine"
              value={String(like)}
              onChange={(e) => setChosen(Number(e.target.value))}
              data={planned.map((p) => ({
                value: String(p.card.number),
                label: `${p.card.number}: ${p.plan}`,
              }))}
            />
          )}
          <Alike batch={batch} like={like} />
        </>
      )}
    </section>
  )
}

function Alike({ batch, like }: { batch: BatchView; like: number }) {
  const heads = batch.machines.map((m) => `${m.card.number} ${m.card.changedAt}`).join()
  const preview = useQuery(batchPreviewQuery(batch.number, like, heads))
  const change = useBatchChange(batch.number)
  const [without, setWithout] = useState<number[]>([])
  if (!preview.data)
    return preview.error ? <Trouble error={preview.error} /> : <p className="muted">Weighing…</p>
  const suited = preview.data.machines.filter((m) => m.whyNot === null)
  const meant = suited.filter((m) => !without.includes(m.order)).map((m) => m.order)
  const odd = preview.data.machines.filter((m) => m.whyNot ?? m.differs ?? (m.notes.length > 0 || null))
  return (
    <>
      <p>
        Like <b className="mono">{like}</b>: {suited[0]?.plan ?? 'it suits none of the others'}.
        {odd.length === 0 && suited.length > 0 && ' All the others are alike.'}
      </p>
      {odd.length > 0 && (
        <ul className="stack odd-ones">
          {odd.map((m) => (
            <li key={m.order} className="row">
              {m.whyNot === null ? (
                <label className="row">
                  <input
                    type="checkbox"
                    checked={!without.includes(m.order)}
                    onChange={() =>
                      setWithout(
                        without.includes(m.order)
                          ? without.filter((n) => n !== m.order)
                          : [...without, m.order],
                      )
                    }
                  />
                  <b className="mono">{m.order}</b>
                </label>
              ) : (
                <b className="mono">{m.order}</b>
              )}
              <span className={m.whyNot ? 'off' : undefined}>
                {[m.whyNot, m.differs, ...m.notes.map((n) => n.sentence)].filter(Boolean).join(' ')}
              </span>
            </li>
          ))}
        </ul>
      )}
      <Trouble error={change.error} />
      <p className="row">
        <button
          className="button now"
          disabled={meant.length === 0 || change.isPending}
          onClick={() =>
            change.send({
              path: 'plan',
              body: { like, only: meant, changes: null, note: null, discount: null },
            })
          }
        >
          Plan {counted(meant.length, 'machine', 'machines')} so
        </button>
        {preview.data.quote && (
          <span>{money(preview.data.quote.total, preview.data.quote.currency)} for all suited</span>
        )}
      </p>
    </>
  )
}
