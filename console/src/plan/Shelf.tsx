import { TextInput } from '@mantine/core'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { MemoryModule, OrderView, PartLine } from '../api/client'
import { shelfQuery } from '../api/queries'
import { money } from '../words'
import { Grip } from './Grip'
import type { Held } from './wishes'

type Props = { order: OrderView; currency: string; held: Held | null; onHold: (held: Held | null) => void }

/** The catalogue with the shelf: what suits this model, or all. A scanned code finds its part. */
export function Shelf({ order, currency, held, onHold }: Props) {
  const [text, setText] = useState('')
  const [all, setAll] = useState(false)
  const parts = useQuery({ ...shelfQuery(order.number, text.trim()), placeholderData: keepPreviousData })
  const found = parts.data ?? []
  const shown = all ? found : found.filter((l) => l.whyUnsuited === null)
  return (
    <div className="stack" style={{ gap: 10 }}>
      <TextInput
        aria-label="Find a part"
        placeholder="Scan, or type a part number"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || shown.length !== 1) return
          onHold({ kind: 'part', part: shown[0]!.line.kind })
          setText('')
        }}
      />
      <label className="row small">
        <input type="checkbox" checked={all} onChange={(e) => setAll(e.target.checked)} /> also what does not
        suit a {order.model.code}
      </label>
      <ul className="grips tall">
        {shown.map(({ line: l, whyUnsuited }) => (
          <Grip
            key={l.kind.number}
            held={{ kind: 'part', part: l.kind }}
            isHeld={held?.kind === 'part' && held.part.number === l.kind.number}
            onHold={onHold}
            name={l.kind.name}
            right={money(l.kind.price)}
            under={[l.kind.number, l.kind.pieces > 1 && `kit of ${l.kind.pieces}`, free(l), whyUnsuited]}
          />
        ))}
        {shown.length === 0 && parts.data && (
          <li className="muted small">
            {found.length > 0
              ? 'Nothing here suits this model.'
              : `The catalogue has nothing like “${text}”.`}
          </li>
        )}
      </ul>
      <Other onHold={onHold} />
      <p className="muted small">Prices in {currency}, without tax.</p>
    </div>
  )
}

/** A module that the catalogue does not have: the customer's own. */
function Other({ onHold }: { onHold: (held: Held) => void }) {
  const [text, setText] = useState('')
  const [part, setPart] = useState('')
  return (
    <details>
      <summary className="small">Not in the catalogue</summary>
      <div className="row other-module">
        <TextInput
          aria-label="Its size"
          placeholder="16 GB"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <TextInput
          aria-label="Its part number"
          placeholder="part number"
          value={part}
          onChange={(e) => setPart(e.target.value)}
        />
        <button
          className="button"
          disabled={!/\d\s*[a-z]/i.test(text)}
          onClick={() =>
            // The size travels as typed; the service reads it.
            onHold({
              kind: 'module',
              module: {
                size: text.trim() as unknown as number,
                partNumber: part.trim() || null,
              } as MemoryModule,
            })
          }
        >
          Take it up
        </button>
      </div>
    </details>
  )
}

const free = (l: PartLine) => (l.free > 0 ? `${l.free} on the shelf` : 'to order')
