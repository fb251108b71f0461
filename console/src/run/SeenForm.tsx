import { useState, type MouseEvent } from 'react'
import type { BoardPoint, OrderView } from '../api/client'
import { BoardDrawing } from '../positions/BoardDrawing'
import { boardMargin, pressed } from '../positions/plate'
import { spoken } from '../words'
import { Field } from './Field'
import type { Say } from './queue'

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
  const [at, setAt] = useState<BoardPoint | null>(bay?.at ?? slot?.at ?? null)
  const [turn, setTurn] = useState(slot?.turn ?? 0)
  const [angle, setAngle] = useState(slot?.angle ?? null)
  const [latch, setLatch] = useState(slot?.latch ?? null)
  const [notch, setNotch] = useState(slot?.notch ?? '')
  const [label, setLabel] = useState(slot?.label ?? '')
  const [form, setForm] = useState(bay?.form ?? '')
  const press = (event: MouseEvent<HTMLDivElement>) => {
    const svg = event.currentTarget.querySelector('svg')
    if (svg) setAt(pressed(event, svg.getBoundingClientRect(), boardMargin))
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
          notch: notch.trim() || null,
          label: label.trim() || null,
          form: form.trim() || null,
        },
      },
      step,
      title: `Seen of ${position}`,
      confirms: false,
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
                  <button key={t} className="button" aria-pressed={turn === t} onClick={() => setTurn(t)}>
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
                    onClick={() => setAngle(a)}
                  >
                    {a}°
                  </button>
                ))}
              </div>
              <div className="row" role="group" aria-label="Latch">
                {latches.map((l) => (
                  <button key={l} className="button" aria-pressed={latch === l} onClick={() => setLatch(l)}>
                    {spoken(l)}
                  </button>
                ))}
              </div>
              <Field label="Where the notch points" value={notch} onChange={setNotch} />
            </>
          )}
          {bay && <Field label="Form of drive: M.2 2280" value={form} onChange={setForm} />}
          <Field label="Printed beside it, or its colour" value={label} onChange={setLabel} />
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
