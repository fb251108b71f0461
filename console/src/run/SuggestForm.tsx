import { NativeSelect, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { GuideChange, RunStep } from '../api/client'

type Kind = GuideChange['kind']

const blank: GuideChange = { kind: 'trap', target: null, text: null, word: null, number: null, size: null }

/** What may be suggested at a step: a trap anywhere, and at a removal what its facts should say. */
function kindsAt(step: RunStep): [Kind, string][] {
  const group = step.fasteners.find((f) => !f.captive)?.group
  return [
    ['trap', 'a trap to mind here'],
    ...(step.removal
      ? ([
          ['sits-right', 'how to see that it sits right'],
          ['minutes', 'how many minutes it takes'],
        ] as [Kind, string][])
      : []),
    ...(group
      ? ([
          ['hidden', `where ${group} hides`],
          ['fastener-count', `how many ${group} there are`],
        ] as [Kind, string][])
      : []),
  ]
}

const wantsNumber = (kind: Kind) => kind === 'minutes' || kind === 'fastener-count'

export function SuggestForm({ step, onSend }: { step: RunStep; onSend: (change: GuideChange) => void }) {
  const [kind, setKind] = useState<Kind>('trap')
  const [text, setText] = useState('')
  const target =
    kind === 'trap'
      ? step.id
      : kind === 'hidden' || kind === 'fastener-count'
        ? (step.fasteners.find((f) => !f.captive)?.group ?? null)
        : step.removal
  return (
    <form
      className="row"
      onSubmit={(e) => {
        e.preventDefault()
        const number = wantsNumber(kind) ? Number(text) : null
        onSend({ ...blank, kind, target, text: number === null ? text.trim() : null, number })
      }}
    >
      <NativeSelect
        aria-label="What the guide should tell"
        size="md"
        value={kind}
        onChange={(e) => setKind(e.target.value as Kind)}
        data={kindsAt(step).map(([value, label]) => ({ value, label }))}
      />
      <TextInput
        aria-label="What the next technician should know"
        placeholder={wantsNumber(kind) ? 'a number' : 'what the next technician should know'}
        size="md"
        inputMode={wantsNumber(kind) ? 'numeric' : undefined}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <button className="button" disabled={!text.trim()}>
        To the lead
      </button>
    </form>
  )
}
