import { TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { OrderView, SlotChange } from '../api/client'
import { shopQuery, useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { DriveOptions } from '../plan/DriveOptions'
import { OptionsPanel } from '../plan/OptionsPanel'
import '../plan/plan.css'
import { exact, money } from '../words'
import { may } from './acts'

/** Drives that hardly take anything more, each with what may be done about it. */
export function NearlyFull({ order }: { order: OrderView }) {
  return order.nearlyFull.map((full) => (
    <p key={full.drive.bay ?? full.drive.sentence} className="small">
      <span className="verdict remark">!</span> {full.drive.sentence}{' '}
      {full.isNoted ? (
        'A later visit is noted.'
      ) : may(order, 'note-later') ? (
        <a href="#next-visit">Note a later visit</a>
      ) : null}
    </p>
  ))
}

/** What is left for the machine's next visit: a plan at the day's price, or words. */
export function LaterVisit({ order }: { order: OrderView }) {
  const zone = useQuery(shopQuery).data?.zone
  const change = useTold(order.number)
  const { later } = order
  return (
    <>
      {later && (
        <p>
          <b>{later.words}</b>
          {later.price !== null && (
            <span>
              {' '}
              · {money(later.price)} on {exact(later.at, zone).slice(0, 10)}
            </span>
          )}
        </p>
      )}
      <Trouble error={change.error} />
      {may(order, 'drop-later') && later && (
        <div>
          <button
            className="button"
            disabled={change.isPending}
            onClick={() => change.send({ path: 'later/drop', body: { reason: null } })}
          >
            Leave nothing for later
          </button>
        </div>
      )}
      {may(order, 'note-later') && (
        <NoteLater
          order={order}
          onNote={(changes, words) => change.send({ path: 'later', body: { changes, words } })}
          waits={change.isPending}
        />
      )}
    </>
  )
}

type NoteProps = {
  order: OrderView
  onNote: (changes: SlotChange[], words: string | null) => void
  waits: boolean
}

function NoteLater({ order, onNote, waits }: NoteProps) {
  const [words, setWords] = useState('')
  const [what, setWhat] = useState<'words' | 'memory' | 'drives'>(
    order.nearlyFull.some((d) => !d.isNoted) ? 'drives' : 'words',
  )
  const kinds = order.before
    ? ([
        ['words', 'Words'],
        ['memory', 'Memory'],
        ['drives', 'Drives'],
      ] as const)
    : ([['words', 'Words']] as const)
  return (
    <div className="stack" style={{ gap: 10 }}>
      <div className="tabs" role="tablist">
        {kinds.map(([kind, title]) => (
          <button key={kind} role="tab" aria-selected={what === kind} onClick={() => setWhat(kind)}>
            {title}
          </button>
        ))}
      </div>
      <TextInput
        label={what === 'words' ? 'What comes later' : 'A note beside it'}
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      {what === 'words' && (
        <div>
          <button className="button" disabled={!words.trim() || waits} onClick={() => onNote([], words)}>
            Note it
          </button>
        </div>
      )}
      {what !== 'words' && (
        <p className="muted small">
          For the machine as this order leaves it. One press notes it at today’s price.
        </p>
      )}
      {what === 'memory' && (
        <OptionsPanel
          order={order}
          giveUp={[]}
          later
          onTake={(o) => onNote(o.option.changes, words.trim() || null)}
        />
      )}
      {what === 'drives' && (
        <DriveOptions order={order} later onTake={(o) => onNote(o.option.changes, words.trim() || null)} />
      )}
    </div>
  )
}
