import { NativeSelect, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { OrderView } from '../api/client'
import { useTold } from '../api/queries'
import { Trouble } from '../parts/Trouble'

/** What becomes known after the take-in: which build it is, the customer's word on the seal, the boot drive's copy. */
export function CustomerWords({ order }: { order: OrderView }) {
  const [what, setWhat] = useState('')
  const [text, setText] = useState('')
  const change = useTold(order.number)
  if (order.stage === 'handed-back' || order.stage === 'cancelled') return null
  const words: [string, string, () => [string, unknown]][] = [
    ...order.variants
      .filter((v) => v.id !== order.variant)
      .map((v): [string, string, () => [string, unknown]] => [
        v.id,
        `it is a ${v.id}: ${v.tellApart}`,
        () => ['variant', { variant: v.id }],
      ]),
    ['seal', 'the seal may be broken', () => ['seal', { consent: 'given', customer: text }]],
    ['no-seal', 'the seal must stay whole', () => ['seal', { consent: 'refused', customer: text }]],
    ['copy', 'the boot drive’s copy is verified', () => ['copy', { copy: 'verified', text }]],
    ['no-copy', 'the customer goes without a copy', () => ['copy', { copy: 'waived', text }]],
  ]
  const word = words.find(([id]) => id === what)
  const wantsText = word !== undefined && !order.variants.some((v) => v.id === what)
  return (
    <div className="stack words">
      <div className="row">
        <NativeSelect
          aria-label="What became known"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
          data={[
            { value: '', label: 'what became known…' },
            ...words.map(([value, label]) => ({ value, label })),
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
              const [path, body] = word[2]()
              change.send({ path, body }, () => {
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
