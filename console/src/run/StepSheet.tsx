import { TextInput } from '@mantine/core'
import { useEffect, useMemo, useState } from 'react'
import {
  typedSize,
  type ConfirmRequest,
  type FastenerShape,
  type StepClosed,
  type OrderView,
  type StepView,
} from '../api/client'
import { LaidOut } from './LaidOut'
import { BoardDrawing } from '../positions/BoardDrawing'
import { PositionDrawing } from '../positions/PositionDrawing'
import { placed } from './bays'
import { BayMap } from './BayMap'
import { CameOff } from './CameOff'
import { HandTimer, LeftClock } from './Countdown'
import { Cover } from './Cover'
import { Precaution } from './Precaution'
import { SeenForm } from './SeenForm'
import { SignAnswer, Signs } from './Signs'
import { StepTools } from './StepTools'
import { Waive } from './Waive'
import { WhatFor, hasWhatFor } from './WhatFor'
import type { Said, Say } from '../away/queue'
import { occupants } from './steps'
import { useStored } from './stored'
import { Name } from '../people/Name'

type Props = {
  order: OrderView
  view: StepView
  /** What comes after it. */
  following: StepView[]
  refused: Said | undefined
  /** What was said of it and is not sent yet. */
  waiting: Said[]
  coolsUntil: number | null
  /** What stops it here, where nobody else can. */
  closed: (wish: ConfirmRequest) => StepClosed | null
  say: Say
  dismiss: (key: string) => void
}

const recordModules = 'record.modules'
const nothing: string[] = []
const noBays: Record<string, string> = {}

/** One step, large. */
export function StepSheet(props: Props) {
  const { order, view, following, refused, say, dismiss } = props
  const { step } = view
  const run = order.run!
  // What is tapped here waits on the tablet for its confirmation.
  const mine = `revtal.step.${order.number}.${run.number}.${step.id}`
  const mineBays = `${mine}.bays`
  const mineSaw = `${mine}.saw`
  const counts = step.part === 'open' || step.part === 'close'
  const all = useMemo(() => (counts ? step.fasteners.flatMap((g) => g.holes) : nothing), [counts, step])
  const asksBays = step.records.length > 0 && step.id !== recordModules
  const [counted, setCounted] = useStored(mine, nothing)
  const [bays, setBays] = useStored<Record<string, string>>(mineBays, noBays)
  const [explanation, setExplanation] = useState('')
  const [seen, setSeen] = useState('')
  const [saw, setSaw] = useStored(mineSaw, '')
  const taken = useMemo(() => new Set(counted), [counted])
  const uncovers = step.id.startsWith('uncover.')
  const looks = step.id.startsWith('look.')
  // Of a sketch, holes were pressed onto its photograph.
  const onPhoto =
    order.model.sketch && step.fasteners.some((f) => f.at.length > 0)
      ? (run.steps.find((s) => s.step.id === `open.${step.removal}`)?.step.pictures[0] ?? null)
      : null
  const [closed, setClosed] = useState<StepClosed | null>(null)
  const drawn = hasDrawing(order, view)
  const isInside = step.position !== null || step.fasteners.length + step.clips.length + step.pry.length > 0
  const tellsWhatFor = !isInside && hasWhatFor(order)
  const refusal = closed ?? refused?.refused
  const code = refusal?.code ?? ''
  const explains = refusal?.answers.includes('explanation') ?? false

  const toggle = (hole: string) =>
    setCounted(taken.has(hole) ? counted.filter((k) => k !== hole) : [...counted, hole])

  const shows = (kind: 'sign' | 'normal-start', text: string | null) =>
    say({
      path: 'finds',
      body: { kind, text, step: step.id },
      step: step.id,
      title: 'It showed:',
      confirms: false,
    })

  const done = (more: { deviation?: 'otherwise' | 'skipped'; explanation?: string } = {}) => {
    const body = {
      holes: all.length > 0 && more.deviation !== 'skipped' ? counted : null,
      occupants: asksBays && more.deviation !== 'skipped' ? filled(bays) : null,
      seen: seen.trim() ? typedSize(seen) : null,
      explanation: more.explanation ?? (explanation.trim() || null),
      note: saw.trim() || null,
      deviation: more.deviation ?? null,
    }
    const stops = props.closed(body)
    setClosed(stops)
    if (stops) return
    say({
      path: `steps/${encodeURIComponent(step.id)}`,
      body,
      step: step.id,
      title: step.title,
      confirms: true,
      keeps: [mine, mineBays, mineSaw],
    })
  }

  useEffect(() => {
    const heard = (event: Event) => {
      const text = (event as CustomEvent<string>).detail
      if (text === 'revtal:done') done()
      else if (asksBays) setBays(placed(text, step.records, bays, occupants(run.steps)))
    }
    window.addEventListener('revtal:scan', heard)
    return () => window.removeEventListener('revtal:scan', heard)
  })

  return (
    <section className="step" aria-live="polite">
      <p className="muted step-part">
        {step.part}
        {step.minutes > 1 && <span> about {step.minutes} min</span>}
      </p>
      {step.precautions.map((p) => (
        <Precaution key={p.text} kind={p.kind} text={p.text} />
      ))}
      <h1>{step.title}</h1>
      {view.blocked && (
        <p className="trouble">
          <Name id={view.blocked.by} /> could not do it: {view.blocked.reason}
        </p>
      )}
      <div className={drawn || tellsWhatFor ? 'step-body with-cover' : 'step-body'}>
        <div className="stack">
          <div className="step-details">
            {step.details.map((d) => (
              <p key={d}>{d}</p>
            ))}
          </div>
          {step.traps.map((t) => (
            <Precaution key={t} kind="trap" text={t} />
          ))}
          {step.timedFrom && <Cooling until={props.coolsUntil} />}
          {step.seconds !== null && !step.timedFrom && <HandTimer seconds={step.seconds} />}
          {all.length > 0 && (
            <div className="stack counting">
              <div className="row">
                <span className="count">
                  <b className="mono">{counted.length}</b> of {all.length}{' '}
                  {step.part === 'open' ? 'out' : 'back'}
                </span>
                <button
                  className="button"
                  onClick={() => setCounted(counted.length === all.length ? nothing : all)}
                >
                  {counted.length === all.length ? 'None' : `All ${all.length}`}
                </button>
              </div>
              <div className="row">
                {all.map((hole, i) => (
                  <button
                    key={hole}
                    className={pegClass(taken.has(hole), shapeOf(step, hole))}
                    aria-pressed={taken.has(hole)}
                    aria-label={`Fastener ${i + 1} of ${all.length}, ${hole.replace('/', ' ')}`}
                    onClick={() => toggle(hole)}
                  >
                    {hole.slice(hole.lastIndexOf('/') + 1)}
                  </button>
                ))}
              </div>
            </div>
          )}
          {asksBays && (
            <BayMap
              bays={step.records}
              value={bays}
              read={step.offers}
              was={step.part === 'open' || step.part === 'record' ? {} : occupants(run.steps)}
              onChange={setBays}
            />
          )}
          {step.part === 'measure' && (
            <TextInput
              label="The firmware shows"
              placeholder="20 GB"
              size="md"
              value={seen}
              onChange={(e) => setSeen(e.target.value)}
            />
          )}
          {looks && (
            <TextInput
              label={`What you saw at ${step.position}, and why it stays`}
              placeholder="contacts clean, latch whole"
              size="md"
              value={saw}
              onChange={(e) => setSaw(e.target.value)}
            />
          )}
          {step.signs.length > 0 && (
            <Signs
              signs={step.signs}
              told={run.found.filter((f) => f.kind === 'sign').map((f) => f.text)}
              onTell={(text) => shows('sign', text)}
              onNormal={() => shows('normal-start', null)}
            />
          )}
          {run.signs
            .filter((s) => !s.isOver && s.step === step.id)
            .map((s) => (
              <SignAnswer key={s.at} order={order} sign={s} />
            ))}
          {explains && (
            <TextInput
              label={code.startsWith('open-') ? 'Why it goes on all the same' : 'Why the count differs'}
              size="md"
              value={explanation}
              onChange={(e) => setExplanation(e.target.value)}
            />
          )}
        </div>
        <div className="stack">
          {(step.bits.length > 0 || step.trays.length > 0) && <LaidOut bits={step.bits} trays={step.trays} />}
          {step.position && (
            <BoardDrawing
              slots={order.positions.map((p) => p.slot)}
              bays={order.bays}
              here={step.position}
              order={run.steps.filter((s) => s.step.part === step.part).map((s) => s.step.position ?? '')}
            />
          )}
          {order.positions.some((p) => p.slot.id === step.position && !p.slot.at) && (
            <PositionDrawing positions={order.positions} compact here={step.position} />
          )}
          <Cover
            fasteners={step.fasteners}
            shapes={step.shapes}
            clips={step.clips}
            pry={step.pry}
            face={step.face}
            counted={counts ? taken : undefined}
            way={step.part === 'open' ? 'open' : 'close'}
            onToggle={counts ? toggle : undefined}
            photo={onPhoto}
          />
          {step.pictures
            .filter((hash) => hash !== onPhoto)
            .map((hash) => (
              <img
                key={hash}
                src={`/api/v1/pictures/${hash}`}
                alt={`Guide picture: ${step.title}`}
                className="step-picture"
              />
            ))}
          {tellsWhatFor && <WhatFor order={order} />}
        </div>
      </div>
      {refusal && (
        <div className="trouble" role="alert">
          <p>{refusal.detail}</p>
          <Waive
            step={step.id}
            refusal={refusal}
            say={say}
            done={() => {
              setClosed(null)
              if (refused) dismiss(refused.key)
            }}
          />
        </div>
      )}
      {order.model.sketch && step.part === 'open' && <CameOff order={order} step={step} say={say} />}
      {order.model.sketch && step.position && !uncovers && (
        <SeenForm key={step.position} order={order} position={step.position} step={step.id} say={say} />
      )}
      <StepTools
        order={order}
        step={step}
        waiting={props.waiting}
        say={say}
        deviate={(deviation, why) => done({ deviation, explanation: why })}
      />
      <div className="step-foot">
        <ol className="muted following" aria-label="What comes then">
          {following.map((s) => (
            <li key={s.step.id}>{s.step.title}</li>
          ))}
          {following.length === 0 && <li>the after reading</li>}
        </ol>
        <button className="button now done-button" autoFocus onClick={() => done()}>
          {uncovers ? `${step.position} lies open` : 'Done'}
        </button>
      </div>
    </section>
  )
}

function Cooling({ until }: { until: number | null }) {
  return until !== null ? (
    <LeftClock until={until} over="Cooled down." />
  ) : (
    <p className="muted">The clock starts with the shut-down.</p>
  )
}

const pegClass = (on: boolean, shape: FastenerShape | undefined) =>
  ['peg', on && 'on', shape !== 'circle' && 'squared'].filter(Boolean).join(' ')

// Groups differ by shape here as on the cover.
const shapeOf = (step: StepView['step'], hole: string) =>
  step.shapes[step.fasteners.findIndex((f) => f.holes.includes(hole))]

const hasDrawing = (order: OrderView, { step }: StepView) =>
  step.fasteners.length + step.clips.length + step.pry.length + step.pictures.length > 0 ||
  step.bits.length + step.trays.length > 0 ||
  (step.position !== null &&
    [...order.positions.map((p) => p.slot), ...order.bays].some((p) => p.id === step.position))

const filled = (bays: Record<string, string>) =>
  Object.fromEntries(Object.entries(bays).filter(([, text]) => text.trim()))
