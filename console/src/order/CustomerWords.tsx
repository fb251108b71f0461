import { NativeSelect, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { OrderAct, OrderChange, OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { may } from './acts'

/** What was said: the act that records it, its key and words, and the request it makes. */
type Word = [act: OrderAct, key: string, label: string, change: () => OrderChange]

const unknownBuild = '?'

/** What becomes known after the take-in: which build it is, the customer's word on the seal, the boot drive's copy. */
export function CustomerWords({ order }: { order: OrderView }) {
  const [what, setWhat] = useState('')
  const [text, setText] = useState('')
  const change = useTold(order.number)
  const words: Word[] = [
    ...order.variants
      .filter((v) => v.id !== order.variant)
      .map((v): Word => [
        'tell-variant',
        v.id,
        `it is a ${v.id}: ${v.tellApart}`,
        () => ({ path: 'variant', body: { variant: v.id } }),
      ]),
    ...(order.variant
      ? [
          [
            'tell-variant',
            unknownBuild,
            'it is not known after all which build it is',
            () => ({ path: 'variant', body: { variant: null } }),
          ] as Word,
        ]
      : []),
    [
      'tell-seal',
      'seal',
      'the seal may be broken',
      () => ({ path: 'seal', body: { consent: 'given', customer: text } }),
    ],
    [
      'tell-seal',
      'no-seal',
      'the seal must stay whole',
      () => ({ path: 'seal', body: { consent: 'refused', customer: text } }),
    ],
    [
      'tell-copy',
      'copy',
      'the boot drive’s copy is verified',
      () => ({ path: 'copy', body: { copy: 'verified', text } }),
    ],
    [
      'tell-copy',
      'no-copy',
      'the customer goes without a copy',
      () => ({ path: 'copy', body: { copy: 'waived', text } }),
    ],
  ]
  const open = words.filter(([act]) => may(order, act))
  if (open.length === 0) return null
  const word = open.find(([, id]) => id === what)
  const wantsText = word !== undefined && word[0] !== 'tell-variant'
  return (
    <div className="stack words">
      <div className="row">
        <NativeSelect
          aria-label="What became known"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
          data={[
            { value: '', label: 'what became known…' },
            ...open.map(([, value, label]) => ({ value, label })),
          ]}
        />
        {wantsText && (
          <TextInput
            aria-label="Who said so, and how"
            placeholder="who said so, and how"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        )}
        {word && (
          <button
            className="button"
            disabled={change.isPending || (wantsText && !text.trim())}
            onClick={() => {
              change.send(word[3](), () => {
                setWhat('')
                setText('')
              })
            }}
          >
            Record it
          </button>
        )}
      </div>
      <Trouble error={change.error} />
    </div>
  )
}
