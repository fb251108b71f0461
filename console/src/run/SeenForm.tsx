import type { MouseEvent } from 'react'
import type { BoardPoint, OrderView } from '../api/client'
import { BoardDrawing } from '../positions/BoardDrawing'
import { boardMargin, pressed } from '../positions/plate'
import { spoken } from '../words'
import { Field } from './Field'
import type { Say } from '../away/queue'
import { useStored } from './stored'

type Seen = {
  at: BoardPoint | null
  turn: number
  angle: number | null
  latch: string | null
  below: string | null
  notch: string
  label: string
  form: string
}

const nothing: Partial<Seen> = {}

const latches = ['spread-both', 'one-side', 'swing-tabs', 'ribbons', 'self-closing']
const angles = [15, 20, 25, 30, 45, 90]

/** What is seen of a slot or bay while it lies open: pressed, and written into the sketch. */
export function SeenForm({
  order,
  position,
  step,
  say,
}: {
  order: OrderView
  position: string
  step: string
  say: Say
}) {
  const bay = order.bays.find((b) => b.id === position)
  const slot = order.positions.find((p) => p.slot.id === position)?.slot
  // What is pressed here waits on the tablet until it is sent.
  const mine = `revtal.seen.${order.number}.${position}`
  const [pressedHere, setPressed] = useStored<Partial<Seen>>(mine, nothing)
  const seen: Seen = {
    at: bay?.at ?? slot?.at ?? null,
    turn: slot?.turn ?? 0,
    angle: slot?.angle ?? null,
    latch: slot?.latch ?? null,
    below: slot?.below ?? null,
    notch: slot?.notch ?? '',
    label: slot?.label ?? '',
    form: bay?.form ?? '',
    ...pressedHere,
  }
  const { at, turn, angle, latch, below, notch, label, form } = seen
  const others = order.positions.map((p) => p.slot.id).filter((id) => id !== position)
  const set = (what: Partial<Seen>) => setPressed({ ...pressedHere, ...what })
  const press = (event: MouseEvent<HTMLDivElement>) => {
    const svg = event.currentTarget.querySelector('svg')
    if (svg) set({ at: pressed(event, svg.getBoundingClientRect(), boardMargin) })
  }
  const send = () =>
    say({
      path: 'positions',
      body: {
        seen: {
          position,
          isBay: bay !== undefined,
          at,
          turn: bay ? null : turn,
          angle: bay ? null : angle,
          latch: bay ? null : latch,
          below,
          notch: notch.trim() || null,
          label: label.trim() || null,
          form: form.trim() || null,
        },
      },
      step,
      title: `Seen of ${position}`,
      confirms: false,
      keeps: [mine],
    })
  return (
    <section className="seen stack" aria-label={`What is seen of ${position}`}>
      <h2>{position}, as it is seen</h2>
      <div className="seen-body">
        <div onClick={press} className="placing">
          <BoardDrawing
            plate
            slots={order.positions.map((p) => (p.slot.id === position ? { ...p.slot, at, turn } : p.slot))}
            bays={order.bays.map((b) => (b.id === position ? { ...b, at } : b))}
            here={position}
          />
          <p className="muted small">Press where {position} sits on the board.</p>
        </div>
        <div className="stack">
          {!bay && (
            <>
              <div className="row" role="group" aria-label="How it lies">
                {[0, 90].map((t) => (
                  <button
                    key={t}
                    className="button"
                    aria-pressed={turn === t}
                    onClick={() => set({ turn: t })}
                  >
                    {t === 0 ? 'lies across' : 'stands upright'}
                  </button>
                ))}
              </div>
              <div className="row" role="group" aria-label="Angle at which the module goes in">
                {angles.map((a) => (
                  <button
                    key={a}
                    className="button mono"
                    aria-pressed={angle === a}
                    onClick={() => set({ angle: a })}
                  >
                    {a}°
                  </button>
                ))}
              </div>
              <div className="row" role="group" aria-label="Latch">
                {latches.map((l) => (
                  <button
                    key={l}
                    className="button"
                    aria-pressed={latch === l}
                    onClick={() => set({ latch: l })}
                  >
                    {spoken(l)}
                  </button>
                ))}
              </div>
              {others.length > 0 && (
                <div className="row" role="group" aria-label="Layer">
                  {others.map((o) => (
                    <button
                      key={o}
                      className="button"
                      aria-pressed={below === o}
                      onClick={() => set({ below: below === o ? null : o })}
                    >
                      lies under {o}
                    </button>
                  ))}
                </div>
              )}
              <Field label="Where the notch points" value={notch} onChange={(text) => set({ notch: text })} />
            </>
          )}
          {bay && (
            <Field label="Form of drive: M.2 2280" value={form} onChange={(text) => set({ form: text })} />
          )}
          <Field
            label="Printed beside it, or its colour"
            value={label}
            onChange={(text) => set({ label: text })}
          />
          <div>
            <button className="button" onClick={send}>
              Write it into the sketch
            </button>
          </div>
        </div>
      </div>
    </section>
  )
}
