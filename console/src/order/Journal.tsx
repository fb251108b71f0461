import { NativeSelect, SegmentedControl, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type OrderView, type ParkRequest } from '../api/client'
import { sayOf } from '../away/queue'
import { shopQuery, useChange } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { NamedInput } from '../parts/NamedInput'
import { When } from '../parts/When'
import { exact } from '../words'
import { may } from './acts'
import { Name, useCalled } from '../people/Name'

type Line = OrderView['journal'][number]

const topics: { value: Line['topic'] | 'all'; label: string }[] = [
  { value: 'all', label: 'all' },
  { value: 'job', label: 'the job' },
  { value: 'run', label: 'at the machine' },
  { value: 'readings', label: 'measured' },
  { value: 'words', label: 'words' },
]

/** Lines that stand one after another on the same day of the bench. */
function byDay(lines: Line[], zone?: string) {
  const days: { day: string; lines: Line[] }[] = []
  for (const line of lines) {
    const day = exact(line.at, zone).slice(0, 10)
    if (days.at(-1)?.day === day) days.at(-1)!.lines.push(line)
    else days.push({ day, lines: [line] })
  }
  return days
}

/** All that was recorded, newest first, and what can be said at any time: a note, parking, resuming, cancelling. */
export function JournalSection({ order }: { order: OrderView }) {
  const [topic, setTopic] = useState<Line['topic'] | 'all'>('all')
  const [answering, setAnswering] = useState<number | null>(null)
  const zone = useQuery(shopQuery).data?.zone
  const lines = [...order.journal].reverse().filter((l) => topic === 'all' || l.topic === topic)
  return (
    <>
      <Say order={order} />
      <SegmentedControl
        aria-label="What of the journal is shown"
        data={topics}
        value={topic}
        onChange={(value) => setTopic(value as typeof topic)}
      />
      {lines.length === 0 && <p className="muted">Nothing of that.</p>}
      {byDay(lines, zone).map(({ day, lines }) => (
        <section key={day} aria-label={day}>
          <h3 className="journal-day">{day}</h3>
          <ol className="journal-list">
            {lines.map((line) => (
              <li key={line.sequence}>
                <span className="num muted">{line.sequence}</span>
                <span className="muted small">
                  <Moment line={line} />
                </span>
                <span>
                  <Name id={line.by} />
                </span>
                <span>
                  <Told line={line} all={order.journal} />
                  {line.begun !== null && may(order, 'add-note') && answering !== line.sequence && (
                    <button className="answer-it" onClick={() => setAnswering(line.sequence)}>
                      Answer
                    </button>
                  )}
                  {answering === line.sequence && (
                    <Answer order={order} to={line} onDone={() => setAnswering(null)} />
                  )}
                </span>
              </li>
            ))}
          </ol>
        </section>
      ))}
    </>
  )
}

/** What a line says; an answer with the beginning of what it answers. */
function Told({ line, all }: { line: Line; all: Line[] }) {
  const begun = line.begun === line.sequence ? undefined : all.find((l) => l.sequence === line.begun)
  return (
    <>
      {begun && (
        <span className="answers small">
          <Name id={begun.by} />: {begun.text}
        </span>
      )}
      {line.text}{' '}
    </>
  )
}

function Answer({ order, to, onDone }: { order: OrderView; to: Line; onDone: () => void }) {
  const [text, setText] = useState('')
  const called = useCalled()
  const send = () => {
    if (!text.trim()) return
    sayOf(order.number)({
      path: 'notes',
      body: { text, answers: to.sequence },
      step: 'order',
      title: 'Answer:',
      confirms: false,
    })
    onDone()
  }
  return (
    <span className="answer row">
      <NamedInput label={`Answer ${called(to.by)}`} value={text} onChange={setText} onSend={send} autoFocus />
      <button className="button" disabled={!text.trim()} onClick={send}>
        Answer
      </button>
      <button className="button" onClick={onDone}>
        Leave it
      </button>
    </span>
  )
}

/** When it was said; where that waited for a network, when it arrived too. */
function Moment({ line }: { line: Line }) {
  if (!line.said) return <When at={line.at} />
  return (
    <>
      <When at={line.said.at} />
      <br />
      arrived <When at={line.at} />
      {line.said.clockOff && (
        <>
          <br />
          its clock was off
        </>
      )}
    </>
  )
}

function Say({ order }: { order: OrderView }) {
  const [text, setText] = useState('')
  const path = { number: order.number }
  const note = () => {
    sayOf(order.number)({ path: 'notes', body: { text }, step: 'order', title: 'Note:', confirms: false })
    clear()
  }
  const [until, setUntil] = useState<Until>('said')
  const [at, setAt] = useState('')
  const park = useChange(async (reason: string, header) =>
    api.POST('/api/v1/orders/{number}/park', {
      params: { path, header },
      body: { reason, ...untils[until](at) },
    }),
  )
  const cancel = useChange(async (reason: string, header) =>
    api.POST('/api/v1/orders/{number}/cancel', { params: { path, header }, body: { reason } }),
  )
  const resume = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/resume', { params: { path, header } }),
  )
  const clear = () => setText('')
  return (
    <div className="stack" style={{ gap: 10 }}>
      <NamedInput label={may(order, 'cancel') ? 'Note, or reason' : 'Note'} value={text} onChange={setText} />
      <Trouble error={park.error ?? cancel.error ?? resume.error} />
      <div className="row">
        <button className="button" disabled={!text.trim()} onClick={note}>
          Add as a note
        </button>
        {may(order, 'resume') && (
          <button className="button now" onClick={() => resume.send(null)}>
            Resume
          </button>
        )}
        {may(order, 'cancel') && (
          <button className="button" disabled={!text.trim()} onClick={() => cancel.send(text, clear)}>
            Cancel the order
          </button>
        )}
      </div>
      {may(order, 'park') && (
        <div className="row park-row">
          <button
            className="button"
            disabled={!text.trim() || (until === 'time' && !at)}
            onClick={() => park.send(text, clear)}
          >
            Park
          </button>
          <NativeSelect
            aria-label="Until when"
            value={until}
            onChange={(e) => setUntil(e.target.value as Until)}
            data={[
              { value: 'said', label: 'until somebody resumes it' },
              { value: 'time', label: 'until a time' },
              { value: 'customer-answers', label: 'until the customer answers' },
              { value: 'parts-arrive', label: 'until its parts are there' },
            ]}
          />
          {until === 'time' && (
            <TextInput
              type="datetime-local"
              aria-label="Parked until"
              value={at}
              onChange={(e) => setAt(e.target.value)}
            />
          )}
        </div>
      )}
    </div>
  )
}

// What a parked order is taken up again by.
const untils = {
  said: () => ({}),
  time: (at: string) => ({ until: new Date(at).toISOString() }),
  'customer-answers': () => ({ wakes: 'customer-answers' }),
  'parts-arrive': () => ({ wakes: 'parts-arrive' }),
} satisfies Record<string, (at: string) => Partial<ParkRequest>>

type Until = keyof typeof untils
