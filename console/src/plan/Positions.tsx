import { NativeSelect } from '@mantine/core'
import type { DragEvent, ReactNode } from 'react'
import type { Drive, OrderView, PlanPreview } from '../api/client'
import { driveSize, size } from '../words'
import { isMemory, keep, type Held, type Wish, type Wishes } from './wishes'

type Props = {
  order: OrderView
  wishes: Wishes
  preview: PlanPreview | undefined
  held: Held | null
  /** Why the last thing could not go where it was put. */
  refusal: { position: string; text: string } | null
  onPut: (position: string) => void
  onWish: (position: string, wish: Wish) => void
  onPoint: (position: string | null) => void
}

/**
 * The machine's positions in their order on the board: what sits there, and what will.
 * Each takes what the hand holds.
 */
export function Positions(props: Props) {
  const { order, preview } = props
  const plannedSlots = preview?.plan.plan.slots
  const many = order.positions.length > 4
  return (
    <div className="stack" style={{ gap: 12 }}>
      <ul className={many ? 'targets many' : 'targets'} aria-label="Slots">
        {order.positions.map((p) => {
          const planned = plannedSlots?.find((s) => s.slot === p.slot.id)
          const wish = props.wishes[p.slot.id] ?? keep
          const after = planned
            ? planned.module
              ? size(planned.module.size)
              : planned.stays && !planned.before.known
                ? 'unknown'
                : 'empty'
            : (p.before?.spoken ?? 'unknown')
          return (
            <Target
              key={p.slot.id}
              {...props}
              id={p.slot.id}
              takes={(h) => isMemory(h) && !p.slot.soldered}
              under={[
                p.slot.channel && `channel ${p.slot.channel}`,
                !many && p.slot.label,
                p.slot.below && `under ${p.slot.below}`,
                p.slot.soldered && 'soldered',
              ]}
              before={p.before?.spoken ?? 'unknown'}
              after={after}
              changed={wish.what !== 'keep' || planned?.use === 'empty'}
              detail={moduleWords(wish, planned?.module?.partNumber)}
              wish={wish}
              choices={[
                ['keep', p.slot.soldered ? 'soldered' : 'stays'],
                ...(p.before?.module && !p.slot.soldered
                  ? ([
                      ['empty', 'comes out'],
                      ['reseat', 'seat anew'],
                    ] as [string, string][])
                  : []),
                ['inspect', 'look at'],
                ...(p.slot.soldered
                  ? []
                  : order.positions
                      .filter((o) => o.slot.id !== p.slot.id && o.before?.module && !o.slot.soldered)
                      .map((o): [string, string] => [`from:${o.slot.id}`, `from ${o.slot.id}`])),
              ]}
            />
          )
        })}
      </ul>
      {order.bays.length > 0 && (
        <ul className={order.bays.length > 4 ? 'targets many' : 'targets'} aria-label="Drive bays">
          {order.bays.map((b) => {
            const wish = props.wishes[b.id] ?? keep
            const state = order.bayStates.find((s) => s.bay === b.id)
            const before = state?.before?.drive
            const planned = preview?.plan.plan.bays?.find((x) => x.bay === b.id)
            const from = order.bayStates.find((s) => s.bay === planned?.from)?.before?.drive
            return (
              <Target
                key={b.id}
                {...props}
                id={b.id}
                takes={(h) => !isMemory(h)}
                under={[b.form, b.boots && 'boots']}
                before={before ? driveSize(before.size) : state?.isEmpty ? 'empty' : '–'}
                after={driveAfter(planned?.use, planned?.wish?.drive ?? from, before)}
                changed={wish.what !== 'keep' || planned?.use === 'empty'}
                detail={
                  planned?.wish?.drive.partNumber ?? (wish.what === 'from' ? `from ${wish.from}` : null)
                }
                wish={wish}
                choices={[
                  ['keep', 'stays'],
                  ['reseat', 'seat anew'],
                  ['inspect', 'look at'],
                  ['empty', 'comes out'],
                ]}
              />
            )
          })}
        </ul>
      )}
    </div>
  )
}

type TargetProps = Props & {
  id: string
  takes: (held: Held) => boolean
  under: (string | null | false)[]
  before: string
  after: string
  changed: boolean
  detail: string | null
  wish: Wish
  choices: [string, string][]
}

function Target(t: TargetProps): ReactNode {
  const { id, held, wish, choices, refusal } = t
  const takes = held !== null && t.takes(held)
  const over = (event: DragEvent) => {
    if (held) event.preventDefault()
  }
  const value = wish.what === 'from' ? `from:${wish.from}` : wish.what
  const shown: [string, string][] =
    wish.what === 'fit' || wish.what === 'drive'
      ? [[wish.what, wish.what === 'fit' ? 'new' : 'new drive'], ...choices]
      : choices.some(([c]) => c === value)
        ? choices
        : [[value, wish.what === 'from' ? `from ${wish.from}` : value], ...choices]
  const states = [t.changed && 'changed', takes && 'takes', refusal?.position === id && 'refused']
  return (
    <li
      className={['target', ...states].filter(Boolean).join(' ')}
      onDragOver={over}
      onDrop={(event) => {
        event.preventDefault()
        t.onPut(id)
      }}
      onPointerEnter={() => t.onPoint(id)}
      onPointerLeave={() => t.onPoint(null)}
    >
      <div className="target-name">
        <b className="mono">{id}</b>
        <span className="muted small">{t.under.filter(Boolean).join(', ')}</span>
      </div>
      <div className="target-cells">
        <span className={`cell hollow ${bare(t.before) ? 'none' : ''}`}>{t.before}</span>
        <span className="muted" aria-hidden="true">
          →
        </span>
        <span className={`cell hatched ${bare(t.after) ? 'none' : ''}`}>
          <span className="plate">{t.after}</span>
        </span>
      </div>
      <span className="muted small target-detail">{t.detail ?? ' '}</span>
      {held ? (
        <button
          className="button"
          disabled={!takes}
          aria-label={`Put it into ${id}`}
          onClick={() => t.onPut(id)}
        >
          Put here
        </button>
      ) : (
        <NativeSelect
          aria-label={`What ${id} gets`}
          value={value}
          onChange={(e) => t.onWish(id, chosen(e.target.value, wish))}
          data={shown.map(([v, label]) => ({ value: v, label }))}
        />
      )}
      {refusal?.position === id && (
        <p className="trouble small" role="alert">
          {refusal.text}
        </p>
      )}
    </li>
  )
}

const bare = (text: string) => text === 'empty' || text === '–'

function chosen(value: string, wish: Wish): Wish {
  if (value.startsWith('from:')) return { what: 'from', from: value.slice(5) }
  if (value === 'fit' || value === 'drive') return wish
  return { what: value as 'keep' | 'empty' | 'reseat' | 'inspect' }
}

function moduleWords(wish: Wish, part: string | null | undefined): string | null {
  if (wish.what === 'fit') return part ?? 'not in the catalogue'
  if (wish.what === 'from') return `from ${wish.from}`
  if (wish.what === 'reseat') return 'seated anew'
  if (wish.what === 'inspect') return 'looked at'
  return null
}

function driveAfter(use: string | undefined, wish: Drive | undefined, before: Drive | undefined): string {
  if (use === 'empty') return 'empty'
  if (wish) return driveSize(wish.size)
  return before ? driveSize(before.size) : use === 'move' ? 'moved' : '–'
}
