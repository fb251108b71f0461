import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { api, Problem, type LaterStage, type OptionLine, type OrderView } from '../api/client'
import { bestLayout, machineQuery, orderQuery, previewQuery, shopQuery, useChange } from '../api/queries'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { BoardDrawing } from '../positions/BoardDrawing'
import { may, whyNot } from '../order/acts'
import { money, size, spoken } from '../words'
import { DriveForm } from './DriveForm'
import { Notes } from './Expected'
import { OptionsPanel } from './OptionsPanel'
import { Positions } from './Positions'
import { Present } from './Present'
import { Shelf } from './Shelf'
import { changesOf, put, wishesOf, wishesOfPlan, without, type Held, type Wish, type Wishes } from './wishes'
import './plan.css'

/** The machine in the middle, what is in it left, what could go in it right, the running total below. */
export function PlanPage() {
  const { number } = useParams({ from: '/shell/orders/$number/plan' })
  const order = useQuery(orderQuery(Number(number)))
  useTitle(order.data && `Plan of ${order.data.number}`)
  if (!order.data) return <Waiting error={order.error} />
  if (!may(order.data, 'set-plan'))
    return (
      <div className="page stack">
        <Head order={order.data} />
        <p className="sheet">
          {whyNot(order.data, 'set-plan') ??
            `Order ${number} is ${spoken(order.data.stage)}: its plan stands.`}
        </p>
      </div>
    )
  return <Planning key={order.data.head} order={order.data} />
}

function Head({ order }: { order: OrderView }) {
  return (
    <div className="row">
      <h1>
        Plan{' '}
        <Link to="/orders/$number" params={{ number: String(order.number) }} className="mono">
          {order.number}
        </Link>
      </h1>
      <span>
        {order.model.maker} {order.model.name} · <b>{order.intake.customer}</b>
      </span>
      {order.intake.goal && <span className="muted">{order.intake.goal}</span>}
    </div>
  )
}

function Planning({ order }: { order: OrderView }) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const shop = useQuery(shopQuery).data
  const machine = useQuery(machineQuery(order.intake.serial)).data
  const noted = machine?.noted
  const [wishes, setWishes] = useState<Wishes>(() => wishesOfPlan(order))
  const [later, setLater] = useState<LaterStage | null>(order.plan?.later ?? null)
  const [discount, setDiscount] = useState(order.plan?.discount ?? 0)
  const [held, setHeld] = useState<Held | null>(null)
  const [point, setPoint] = useState<string | null>(null)
  const [refusal, setRefusal] = useState<{ position: string; text: string } | null>(null)
  const [tab, setTab] = useState<'options' | 'shelf'>('options')
  const changes = changesOf(wishes)
  const preview = useQuery({
    ...previewQuery(order, changes, discount),
    enabled: changes.length > 0,
    placeholderData: keepPreviousData,
  })
  const shown = changes.length > 0 ? preview.data : undefined
  const leaving = Object.entries(wishes).flatMap(([id, w]) => (w.what === 'empty' ? [id] : []))
  const fitted = Object.values(wishes).flatMap((w) => (w.what === 'fit' ? [w.module] : []))
  const change = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/plan', {
      params: { path: { number: order.number }, header: { ...header, 'If-Match': `"${order.head}"` } },
      body: { changes, discount, later },
    }),
  )
  useEffect(() => {
    const drop = (event: KeyboardEvent) => event.key === 'Escape' && setHeld(null)
    addEventListener('keydown', drop)
    return () => removeEventListener('keydown', drop)
  }, [])

  // Shown at once; what the service refuses goes back, with the reason where it was put.
  const attempt = async (next: Wishes, position: string) => {
    const was = wishes
    setWishes(next)
    setLater(null)
    setRefusal(null)
    if (changesOf(next).length === 0) return
    try {
      await client.fetchQuery(previewQuery(order, changesOf(next), discount))
    } catch (error) {
      if (!(error instanceof Problem)) return
      if (next[position]?.what !== 'drive') setWishes(was)
      setRefusal({ position, text: error.message })
    }
  }
  const onPut = (position: string) => {
    if (!held) return
    setHeld(null)
    void attempt(put(wishes, order, held, position), position)
  }
  const onWish = (position: string, wish: Wish) =>
    void attempt(wish.what === 'keep' ? without(wishes, position) : { ...wishes, [position]: wish }, position)
  const onTake = (option: OptionLine) => {
    setRefusal(null)
    // An option is about memory; drives stay as they are wished.
    const drives = Object.fromEntries(
      Object.entries(wishes).filter(([id]) => order.bays.some((b) => b.id === id)),
    )
    setWishes({ ...drives, ...wishesOf(option.option.changes) })
    setLater(option.later)
  }
  // The same modules where they sit best; what is not about memory stays.
  const arrange = useMutation({
    mutationFn: () =>
      bestLayout(
        order,
        order.positions.flatMap((p) =>
          p.before?.module && !p.slot.soldered && !leaves(p.slot.id, wishes) ? [p.slot.id] : [],
        ),
        fitted,
      ),
    onSuccess: (layout) => {
      const drives = Object.fromEntries(
        Object.entries(wishes).filter(([id]) => order.bays.some((b) => b.id === id)),
      )
      setRefusal(null)
      setWishes({ ...drives, ...wishesOf(layout.changes) })
    },
  })
  return (
    <div className="page plan-page">
      <Head order={order} />
      {noted && (
        <p className="sheet small">
          <span className="verdict remark">!</span> Noted by order {noted.order} for this visit:{' '}
          {noted.stage.words}
        </p>
      )}
      {machine?.marks.map((m) => (
        <p key={m.slot + m.order} className="sheet small">
          <span className="verdict short">✕ {m.slot}</span> was found at fault by order {m.order}:{' '}
          {m.sentence}
        </p>
      ))}
      <div className="plan-columns">
        <Present order={order} held={held} onHold={setHeld} />
        <section className="sheet stack plan-middle" aria-label="The plan">
          <BoardDrawing
            slots={order.positions.map((p) => p.slot)}
            bays={order.bays}
            here={point ?? refusal?.position}
          />
          <Positions
            order={order}
            wishes={wishes}
            preview={shown}
            held={held}
            refusal={refusal}
            onPut={onPut}
            onWish={onWish}
            onPoint={setPoint}
          />
          {Object.entries(wishes).map(
            ([id, w]) =>
              w.what === 'drive' && (
                <DriveForm
                  key={id}
                  bay={id}
                  wish={w.drive}
                  array={order.keepsArray}
                  onChange={(drive) => onWish(id, { what: 'drive', drive })}
                />
              ),
          )}
          <div className="row arrange">
            <button
              className="button"
              disabled={fitted.length === 0 || arrange.isPending}
              onClick={() => arrange.mutate()}
            >
              Seat them best
            </button>
            {arrange.data && (
              <span className="small" role="status">
                {arrange.data.answer.because}{' '}
                {arrange.data.answer.runnerUp && (
                  <span className="muted">
                    Next best:{' '}
                    {arrange.data.answer.runnerUp.seats
                      .map((s) => `${s.slot} ${size(s.module.size)}`)
                      .join(', ')}
                  </span>
                )}
              </span>
            )}
          </div>
          <Trouble error={arrange.error} />
          {shown && <Notes notes={shown.plan.notes} />}
        </section>
        <section className="sheet stack plan-side" aria-label="What could go in">
          <div className="tabs" role="tablist">
            {(['options', 'shelf'] as const).map((t) => (
              <button key={t} role="tab" aria-selected={tab === t} onClick={() => setTab(t)}>
                {t === 'options' ? 'Options' : 'Shelf'}
              </button>
            ))}
          </div>
          {tab === 'options' ? (
            <OptionsPanel order={order} giveUp={leaving} onTake={onTake} />
          ) : (
            <Shelf order={order} currency={shop?.terms.currency ?? ''} held={held} onHold={setHeld} />
          )}
        </section>
      </div>
      <footer className="plan-total" aria-label="Running total">
        {held ? (
          <p role="status">
            In the hand: <b>{heldWords(held)}</b>. Press the position, or Escape to let go.
          </p>
        ) : (
          <dl className="total-facts">
            <Fact name="before" value={size(order.before?.reading.memory.installedBytes)} />
            <Fact name="then" value={shown ? size(shown.plan.expectation.installed) : '–'} strong />
            {later && <Fact name="next visit" value={later.words} />}
            <Fact
              name="speed"
              value={
                shown?.plan.expectation.runningSpeed ? `${shown.plan.expectation.runningSpeed} MT/s` : '–'
              }
            />
            <Fact name="channels" value={shown?.plan.expectation.channels ?? '–'} />
            <Fact name="opens" value={shown ? opens(shown.removals) : '–'} />
            <Fact name="work" value={shown ? `${shown.quote.minutes} min` : '–'} />
            <Fact
              name={shown && shown.quote.unpriced.length > 0 ? 'without a price yet' : 'total'}
              value={shown ? money(shown.quote.total, shown.quote.currency) : '–'}
              strong
            />
          </dl>
        )}
        <label className="discount">
          <span className="muted small">discount, %</span>
          <input
            type="number"
            min={0}
            max={100}
            value={discount}
            onChange={(e) => setDiscount(Math.min(100, Math.max(0, Number(e.target.value) || 0)))}
          />
        </label>
        <button
          className="button now"
          disabled={changes.length === 0 || change.isPending || preview.isError}
          onClick={() =>
            change.send(
              null,
              (receipt) =>
                void navigate({ to: '/orders/$number', params: { number: String(receipt.order) } }),
            )
          }
        >
          {order.plan ? 'Change the plan' : 'Set the plan'}
        </button>
        <Trouble error={change.error} />
      </footer>
    </div>
  )
}

function Fact({ name, value, strong = false }: { name: string; value: string; strong?: boolean }) {
  return (
    <div>
      <dt className="muted small">{name}</dt>
      <dd className={strong ? 'mono strong' : 'mono'}>{value}</dd>
    </div>
  )
}

/** Whether the module of this slot leaves the machine. */
const leaves = (slot: string, wishes: Wishes) =>
  wishes[slot]?.what === 'empty' ||
  ((wishes[slot]?.what === 'fit' || wishes[slot]?.what === 'from') &&
    !Object.values(wishes).some((w) => w.what === 'from' && w.from === slot))

const opens = (removals: string[]) =>
  removals.length === 0 ? 'nothing' : removals.length < 3 ? removals.join(', ') : `${removals.length} parts`

function heldWords(held: Held): string {
  if (held.kind === 'part') return held.part.name
  if (held.kind === 'module') return String(held.module.size)
  return held.kind === 'present' ? `the module of ${held.slot}` : `the drive of ${held.bay}`
}
