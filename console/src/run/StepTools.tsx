import { NativeSelect } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import type { FindKind, OrderChange, OrderView, RunStep } from '../api/client'
import { SuggestForm } from './SuggestForm'
import { Field } from './Field'
import { PhotoForm } from './PhotoForm'
import type { Said, Say } from '../away/queue'
import { NamedInput } from '../parts/NamedInput'
import { KeptPhoto } from '../away/KeptPhoto'
import { wordsIn } from '../away/words'

const finds: [FindKind, string][] = [
  ['hidden-fastener', 'a hidden fastener'],
  ['missing-fastener', 'a fastener missing on arrival'],
  ['lost-fastener', 'the lost fastener, out of the machine'],
  ['broken-clip', 'a broken clip'],
  ['dust', 'dust'],
  ['liquid-mark', 'a mark of liquid'],
  ['swollen-battery', 'a swollen battery (stops the run)'],
  ['left-alone', 'a part that was looked at and left'],
  ['other', 'something else'],
]

// What a start shows is told at a start, with one press.
const atStart: [FindKind, string][] = [
  ['sign', 'a sign at its start'],
  ['normal-start', 'a normal start'],
]

const tools = ['Stuck?', 'Note', 'Found', 'Photo', 'Otherwise', 'Suggest'] as const
type Tool = (typeof tools)[number]

type Props = {
  order: OrderView
  step: RunStep
  /** What was said of it and is not sent yet. */
  waiting: Said[]
  say: Say
  deviate: (deviation: 'otherwise' | 'skipped', why: string) => void
}

/** What can be said without leaving the step. One of them is open at a time. */
export function StepTools({ order, step, waiting, say, deviate }: Props) {
  const [open, setOpen] = useState<Tool | null>(null)
  const here = useRef<HTMLDivElement>(null)
  useEffect(() => {
    // What opens must not hide behind the foot.
    if (open) here.current?.scrollIntoView({ block: 'nearest' })
  }, [open])
  const tell = (change: OrderChange, title: string) => {
    say({ ...change, step: step.id, title, confirms: false })
    setOpen(null)
  }
  const kept = waiting.filter((s) => !s.confirms)
  const photos = order.photos.filter((p) => p.step === step.id)
  const found = order.run!.found.filter((f) => f.step === step.id)
  return (
    <div className="tools" ref={here}>
      <div className="row tool-row">
        {tools.map((tool) => (
          <button
            key={tool}
            className="button tool"
            aria-expanded={open === tool}
            onClick={() => setOpen(open === tool ? null : tool)}
          >
            {tool}
          </button>
        ))}
      </div>
      {open === 'Stuck?' && <Stuck causes={step.stuck} />}
      {open === 'Note' && (
        <Line
          label="Note"
          button="Keep the note"
          onSend={(text) => tell({ path: 'notes', body: { text, step: step.id } }, 'Note:')}
        />
      )}
      {open === 'Found' && (
        <Found
          choices={step.signs.length > 0 ? [...atStart, ...finds] : finds}
          onSend={(kind, text) =>
            tell({ path: 'finds', body: { kind, text: text || null, step: step.id } }, 'Found:')
          }
        />
      )}
      {open === 'Photo' && <PhotoForm order={order} step={step.id} onSaid={() => setOpen(null)} />}
      {open === 'Otherwise' && (
        <Deviate
          onOtherwise={(why) => deviate('otherwise', why)}
          onSkip={(why) => deviate('skipped', why)}
          onBlock={(why) =>
            tell(
              { path: `steps/${encodeURIComponent(step.id)}/impossible`, body: { reason: why } },
              'Cannot be done:',
            )
          }
        />
      )}
      {open === 'Suggest' && (
        <SuggestForm
          step={step}
          onSend={(change) => tell({ path: 'suggestions', body: { change, step: step.id } }, 'Suggestion:')}
        />
      )}
      {(photos.length > 0 || found.length > 0 || kept.length > 0) && (
        <div className="row step-kept">
          {found.map((f, i) => (
            <span key={i} className="muted">
              {f.told}
              {f.text && `, ${f.text}`}
            </span>
          ))}
          {photos.map((p) => (
            <a key={p.hash} href={`/api/v1/pictures/${p.hash}`} target="_blank" rel="noreferrer">
              <img src={`/api/v1/pictures/${p.hash}?small=true`} alt={p.caption ?? `Photo by ${p.by}`} />
            </a>
          ))}
          {kept.map((s) =>
            s.body instanceof Blob ? (
              <KeptPhoto key={s.key} photo={s.body} />
            ) : (
              <span key={s.key} className="muted">
                {s.title} {wordsIn(s.body)} (on its way)
              </span>
            ),
          )}
        </div>
      )}
    </div>
  )
}

function Stuck({ causes }: { causes: string[] }) {
  return (
    <ul className="stuck">
      {causes.length === 0 && (
        <li>
          The guide knows nothing that usually holds here. Look under labels, feet and covers; then ask a
          lead.
        </li>
      )}
      {causes.map((c) => (
        <li key={c}>{c}</li>
      ))}
    </ul>
  )
}

function Line({ label, button, onSend }: { label: string; button: string; onSend: (text: string) => void }) {
  const [text, setText] = useState('')
  return (
    <form
      className="row"
      onSubmit={(e) => {
        e.preventDefault()
        if (text.trim()) onSend(text)
      }}
    >
      <NamedInput label={label} value={text} onChange={setText} autoFocus />
      <button className="button">{button}</button>
    </form>
  )
}

function Found({
  choices,
  onSend,
}: {
  choices: [FindKind, string][]
  onSend: (kind: FindKind, text: string) => void
}) {
  const [kind, setKind] = useState<FindKind>(choices[0]![0])
  const [text, setText] = useState('')
  return (
    <form
      className="row"
      onSubmit={(e) => {
        e.preventDefault()
        onSend(kind, text.trim())
      }}
    >
      <NativeSelect
        aria-label="What was found"
        size="md"
        value={kind}
        onChange={(e) => setKind(e.target.value as FindKind)}
        data={choices.map(([value, label]) => ({ value, label }))}
      />
      <Field
        label={kind === 'left-alone' ? 'Which, and why it stays' : 'Where, and what of it'}
        value={text}
        onChange={setText}
      />
      <button className="button">Record it</button>
    </form>
  )
}

function Deviate(props: {
  onOtherwise: (why: string) => void
  onSkip: (why: string) => void
  onBlock: (why: string) => void
}) {
  const [why, setWhy] = useState('')
  const ready = why.trim() !== ''
  return (
    <div className="row">
      <Field label="How, or why" value={why} onChange={setWhy} autoFocus />
      <button className="button" disabled={!ready} onClick={() => props.onOtherwise(why)}>
        Done otherwise
      </button>
      <button className="button" disabled={!ready} onClick={() => props.onSkip(why)}>
        Skip it
      </button>
      <button className="button" disabled={!ready} onClick={() => props.onBlock(why)}>
        Cannot be done
      </button>
    </div>
  )
}
