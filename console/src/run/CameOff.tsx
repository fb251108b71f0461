import { useState } from 'react'
import type { BoardPoint, OrderView, RunStep } from '../api/client'
import { Cover } from './Cover'
import { Field } from './Field'
import { PhotoForm } from './PhotoForm'
import { Stepper } from './Stepper'
import type { Say } from '../away/queue'
import { useStored } from './stored'

type Held = {
  count: number
  driver: string
  length: string
  captive: boolean
  seal: boolean
  hidden: string
  at: BoardPoint[]
}

// Words that most machines want; anything else is typed.
const words = [
  'bottom cover',
  'back cover',
  'side panel',
  'hatch',
  'keyboard',
  'battery connector',
  'shield',
  'fan',
  'drive cage',
  'bracket',
]
const drivers = ['PH00', 'PH0', 'PH1', 'PH2', 'T5', 'T6', 'T8', 'T10', 'hand']

const freshHeld: Held = {
  count: 0,
  driver: 'PH0',
  length: '',
  captive: false,
  seal: false,
  hidden: '',
  at: [],
}

type Off = {
  name: string
  held: Held[]
  clips: number
  cable: string
  how: string
  cutsPower: boolean
  takes: string[]
  photo: string | null
}

// The photo that was taken last, whatever its hash will be.
const newest = 'newest'

const fresh: Off = {
  name: '',
  held: [freshHeld],
  clips: 0,
  cable: '',
  how: '',
  cutsPower: false,
  takes: [],
  photo: null,
}

/** What just came off of a machine whose way in nobody wrote down: a word, and what held it. */
export function CameOff({ order, step, say }: { order: OrderView; step: RunStep; say: Say }) {
  // What is pressed here waits on the tablet until it is sent.
  const mine = `revtal.off.${order.number}.${step.id}`
  const [off, setOff] = useStored<Off>(mine, fresh)
  const [placing, setPlacing] = useState(0)
  const { name, held, clips, cable, how, cutsPower, takes, photo: picked } = off
  const set = (what: Partial<Off>) => setOff({ ...off, ...what })
  const photos = order.photos.filter((p) => p.step === step.id)
  const photo = picked === newest ? (photos.at(-1)?.hash ?? null) : picked
  const kinds = held.filter((h) => h.count > 0)
  const change = (i: number, what: Partial<Held>) =>
    set({ held: held.map((h, k) => (k === i ? { ...h, ...what } : h)) })
  const send = () => {
    say({
      path: 'came-off',
      body: {
        what: {
          name: name.trim(),
          fasteners: kinds.map((h) => ({
            count: h.count,
            driver: h.driver,
            length: Number(h.length.replace(',', '.')) || null,
            captive: h.captive,
            seal: h.seal,
            hidden: h.hidden.trim() || null,
            at: h.at.length === h.count ? h.at : null,
          })),
          clips: clips || null,
          cables: cable.trim() ? [cable.trim()] : [],
          takesOut: takes,
          isolates: cutsPower,
          how: how.trim() || null,
          picture: photo,
        },
      },
      step: step.id,
      title: `Came off: ${name.trim()}`,
      confirms: false,
    })
    setOff(fresh)
    setPlacing(0)
  }
  return (
    <section className="came-off stack" aria-label="What came off">
      <h2>What came off</h2>
      <div className="row words" role="group" aria-label="A word for it">
        {words.map((w) => (
          <button key={w} className="button" aria-pressed={name === w} onClick={() => set({ name: w })}>
            {w}
          </button>
        ))}
      </div>
      <Field label="or another word for it" value={name} onChange={(text) => set({ name: text })} />
      {held.map((h, i) => (
        <fieldset key={i} className="held">
          <legend>
            {i === 0 ? 'Fasteners' : 'Others'}
            {photo && (
              <button className="button" aria-pressed={placing === i} onClick={() => setPlacing(i)}>
                {placing === i ? 'press each hole on the photo' : 'place these'}
              </button>
            )}
          </legend>
          <div className="row">
            <Stepper
              label="How many"
              value={h.count}
              onChange={(count) => change(i, { count, at: h.at.slice(0, count) })}
            />
            <div className="row drivers" role="group" aria-label="Driver">
              {drivers.map((d) => (
                <button
                  key={d}
                  className="button mono"
                  aria-pressed={h.driver === d}
                  onClick={() => change(i, { driver: d })}
                >
                  {d}
                </button>
              ))}
            </div>
          </div>
          {h.count > 0 && (
            <div className="row">
              <Field
                label="Length in mm"
                unit="mm"
                value={h.length}
                onChange={(length) => change(i, { length })}
                inputMode="numeric"
              />
              <Field label="Hidden where" value={h.hidden} onChange={(hidden) => change(i, { hidden })} />
              <button
                className="button"
                aria-pressed={h.captive}
                onClick={() => change(i, { captive: !h.captive })}
              >
                stay in the part
              </button>
              <button className="button" aria-pressed={h.seal} onClick={() => change(i, { seal: !h.seal })}>
                under a seal
              </button>
            </div>
          )}
        </fieldset>
      ))}
      {kinds.length === held.length && (
        <div>
          <button className="button" onClick={() => set({ held: [...held, freshHeld] })}>
            Others held it too
          </button>
        </div>
      )}
      <div className="row">
        <Stepper label="Clips" value={clips} onChange={(n) => set({ clips: n })} />
        <Field label="A cable that was unplugged" value={cable} onChange={(text) => set({ cable: text })} />
        <button className="button" aria-pressed={cutsPower} onClick={() => set({ cutsPower: !cutsPower })}>
          power leaves the board with it
        </button>
      </div>
      {order.bays.length > 0 && (
        <div className="row" role="group" aria-label="Drives that leave with it">
          <span className="muted">Drives that leave with it</span>
          {order.bays.map((b) => (
            <button
              key={b.id}
              className="button mono"
              aria-pressed={takes.includes(b.id)}
              onClick={() =>
                set({ takes: takes.includes(b.id) ? takes.filter((t) => t !== b.id) : [...takes, b.id] })
              }
            >
              {b.id}
            </button>
          ))}
        </div>
      )}
      <Field label="How it came off" value={how} onChange={(text) => set({ how: text })} />
      <div className="row">
        {photos.map((p) => (
          <button
            key={p.hash}
            className="button photo-pick"
            aria-pressed={photo === p.hash}
            aria-label={`Photo ${p.caption ?? ''}`}
            onClick={() => set({ photo: photo === p.hash ? null : p.hash })}
          >
            <img src={`/api/v1/pictures/${p.hash}?small=true`} alt="" />
          </button>
        ))}
        <PhotoForm order={order} step={step.id} plain onSaid={() => set({ photo: newest })} />
      </div>
      {photo && (
        <Cover
          fasteners={held.map((h, i) => ({
            group: `${i + 1}`,
            driver: h.driver,
            length: Number(h.length) || null,
            count: h.count,
            captive: h.captive,
            seal: h.seal,
            at: h.at,
            hidden: null,
            holes: h.at.map((_, k) => `${i + 1}/${k + 1}`),
          }))}
          shapes={['circle', 'square', 'triangle', 'diamond']}
          photo={photo}
          onPress={(at) => {
            const h = held[placing]!
            change(placing, { at: [...h.at, at], count: Math.max(h.count, h.at.length + 1) })
          }}
        />
      )}
      <div>
        <button className="button came-off-send" disabled={!name.trim()} onClick={send}>
          {name.trim() ? `The ${name.trim()} is off` : 'It is off'}
        </button>
      </div>
    </section>
  )
}
