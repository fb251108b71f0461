import { NativeSelect, NumberInput, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { counted, spoken } from '../words'
import { may } from './acts'
import { OftenTried, oftenTried } from './OftenTried'
import { Name } from '../people/Name'

type Outcome = OrderView['trial']['runs'][number]['outcome']
const outcomes: Record<Outcome, string> = {
  'as-wished': 'as the customer wishes',
  sluggish: 'it runs, and still waits',
  failed: 'it did not run',
}

/** The customer's own kind of work: what was asked for, what was run, and what came of it. */
export function TrialPart({ order }: { order: OrderView }) {
  const { trial } = order
  return (
    <section className="stack" aria-label="The trial" style={{ gap: 8 }}>
      <OftenTried />
      {(trial.asked || trial.runs.length > 0) && (
        <p>
          <b>Trial:</b> {trial.asked ?? 'not asked for'}
          {trial.minutes !== null && `, ${trial.minutes} min at least`}
        </p>
      )}
      <ul className="plain">
        {trial.runs.map((r) => (
          <li key={r.at}>
            <span className={r.outcome === 'as-wished' ? 'verdict as-planned' : 'verdict remark'}>
              {r.outcome === 'as-wished' ? '✓' : '!'} {spoken(r.outcome)}
            </span>{' '}
            {r.work}, {r.minutes} min
            {r.displays !== null && `, ${counted(r.displays, 'display', 'displays')}`}
            {r.note && ` – ${r.note}`}{' '}
            <span className="muted">
              <Name id={r.by} />
            </span>
          </li>
        ))}
      </ul>
      {may(order, 'run-trial') && <RunTrial order={order} />}
      {may(order, 'ask-trial') && <AskTrial order={order} />}
    </section>
  )
}

function RunTrial({ order }: { order: OrderView }) {
  const [f, setF] = useState({ work: order.trial.asked ?? '', outcome: 'as-wished' as Outcome, note: '' })
  const [minutes, setMinutes] = useState<number | string>(order.trial.minutes ?? 20)
  const [displays, setDisplays] = useState<number | string>('')
  const change = useTold(order.number)
  return (
    <details open={order.trial.asked !== null && order.trial.runs.length === 0}>
      <summary className="muted">Say how the trial went</summary>
      <div className="row watch-form">
        <TextInput
          label="Work"
          list={oftenTried}
          value={f.work}
          onChange={(e) => setF({ ...f, work: e.target.value })}
        />
        <NumberInput label="Minutes" min={1} max={1440} value={minutes} onChange={setMinutes} />
        <NumberInput label="Displays" min={0} max={16} value={displays} onChange={setDisplays} />
        <NativeSelect
          label="Outcome"
          value={f.outcome}
          onChange={(e) => setF({ ...f, outcome: e.target.value as Outcome })}
          data={Object.entries(outcomes).map(([value, label]) => ({ value, label }))}
        />
        <TextInput
          label={f.outcome === 'as-wished' ? 'Note' : 'What was not as wished'}
          value={f.note}
          onChange={(e) => setF({ ...f, note: e.target.value })}
        />
        <button
          className="button"
          disabled={change.isPending || !f.work.trim() || (f.outcome !== 'as-wished' && !f.note.trim())}
          onClick={() =>
            change.send({
              path: 'trial',
              body: {
                work: f.work,
                minutes: Number(minutes),
                displays: displays === '' ? null : Number(displays),
                outcome: f.outcome,
                note: f.note || null,
              },
            })
          }
        >
          Record the trial
        </button>
      </div>
      <Trouble error={change.error} />
    </details>
  )
}

function AskTrial({ order }: { order: OrderView }) {
  const [work, setWork] = useState(order.trial.asked ?? '')
  const change = useTold(order.number)
  return (
    <details>
      <summary className="muted">
        {order.trial.asked ? 'Another trial is wanted' : 'The customer wants their own work tried'}
      </summary>
      <div className="row watch-form">
        <TextInput
          label="Kind of work; empty for none"
          list={oftenTried}
          value={work}
          onChange={(e) => setWork(e.target.value)}
        />
        <button
          className="button"
          disabled={change.isPending}
          onClick={() =>
            change.send({ path: 'trial/ask', body: { work: work.trim() || null, minutes: null } })
          }
        >
          Write it down
        </button>
      </div>
      <Trouble error={change.error} />
    </details>
  )
}
