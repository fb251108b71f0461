import { useState, type ReactNode } from 'react'
import type { JournalLine, OrderView } from '../api/client'
import { Name } from '../people/Name'
import { When } from './When'

export type Mine<T> = {
  value: T
  set: (next: T) => void
  /** What the words here began from. */
  base: T
  /** Somebody else has said something different meanwhile; null where nobody has. */
  theirs: { value: T } | null
  take: () => void
  stay: () => void
  /** This was said from here, and is recorded. */
  recorded: (value: T) => void
}

/** What is being typed over what is said so far: it follows that while untouched, and never gives way unasked. */
export function useMine<T>(said: T): Mine<T> {
  const [{ base, mine }, keep] = useState({ base: said, mine: said })
  const moved = !same(said, base)
  const touched = !same(mine, base)
  if (moved && (!touched || same(mine, said))) keep({ base: said, mine: said })
  return {
    value: mine,
    set: (next) => keep((kept) => ({ ...kept, mine: next })),
    base,
    theirs: moved && touched ? { value: said } : null,
    take: () => keep({ base: said, mine: said }),
    stay: () => keep((kept) => ({ ...kept, base: said })),
    recorded: (value) => keep((kept) => ({ ...kept, base: value })),
  }
}

/** The last line of an order's journal of one of these kinds. */
export const lastOf = (order: OrderView, ...kinds: string[]) =>
  order.journal.findLast((line) => kinds.includes(line.kind.split('/')[0] ?? ''))

/** Both sides, in words, until one of them is chosen. */
export function Meanwhile<T>(props: {
  mine: Mine<T>
  /** Where the other side was said. */
  said: JournalLine | undefined
  children: ReactNode
}) {
  const { mine, said } = props
  if (!mine.theirs) return null
  return (
    <div className="hold" role="status">
      <b>meanwhile</b>
      <div>
        <p>{props.children}</p>
        {said && (
          <p className="small">
            <Name id={said.by} />, <When at={said.at} />
          </p>
        )}
      </div>
      <div className="hold-ways">
        <button type="button" className="button" onClick={mine.take}>
          Take that
        </button>
        <button type="button" className="button" onClick={mine.stay}>
          Go on with mine
        </button>
      </div>
    </div>
  )
}

/** Whether two values say the same, in whichever order their members stand. */
export const same = (a: unknown, b: unknown) => JSON.stringify(a, sorted) === JSON.stringify(b, sorted)

const sorted = (_: string, value: unknown) =>
  value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value
