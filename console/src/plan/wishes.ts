import type { DriveWish, MemoryModule, OrderView, PartKind, SlotChange } from '../api/client'

/** What one position is to get. */
export type Wish =
  | { what: 'keep' | 'empty' | 'reseat' | 'inspect' }
  | { what: 'from'; from: string }
  | { what: 'fit'; module: MemoryModule }
  | { what: 'drive'; drive: DriveWish }

export type Wishes = Record<string, Wish>

/** What the hand holds on its way to a position. */
export type Held =
  | { kind: 'present'; slot: string }
  | { kind: 'present-drive'; bay: string }
  | { kind: 'part'; part: PartKind }
  | { kind: 'module'; module: MemoryModule }

export const keep: Wish = { what: 'keep' }

/** Whether it goes to slots; otherwise it goes to bays. */
export const isMemory = (held: Held) =>
  held.kind === 'present' || held.kind === 'module' || (held.kind === 'part' && held.part.module !== null)

/** The wishes after the hand has let go over a position. */
export function put(wishes: Wishes, order: OrderView, held: Held, position: string): Wishes {
  if (held.kind === 'present' || held.kind === 'present-drive') {
    const from = held.kind === 'present' ? held.slot : held.bay
    // A module goes to one place; back onto its own it stays.
    const rest = Object.fromEntries(
      Object.entries(wishes).filter(([, w]) => !(w.what === 'from' && w.from === from)),
    )
    if (from === position) return without(rest, position)
    return { ...rest, [position]: { what: 'from', from } }
  }
  if (held.kind === 'module') return { ...wishes, [position]: { what: 'fit', module: held.module } }
  const { part } = held
  if (part.module) return { ...wishes, [position]: { what: 'fit', module: part.module } }
  const path = order.bayStates.find((b) => b.bay === position)?.dataPath ?? null
  const drive: DriveWish = { drive: part.drive!, path, setup: null }
  return { ...wishes, [position]: { what: 'drive', drive } }
}

export const without = (wishes: Wishes, position: string): Wishes =>
  Object.fromEntries(Object.entries(wishes).filter(([id]) => id !== position))

/** As the service takes them. */
export function changesOf(wishes: Wishes): SlotChange[] {
  return Object.entries(wishes).flatMap(([slot, w]): SlotChange[] => {
    const none = { slot, empty: false, reseat: false, inspect: false }
    switch (w.what) {
      case 'keep':
        return []
      case 'from':
        return [{ ...none, from: w.from }]
      case 'fit':
        return [{ ...none, fit: w.module }]
      case 'drive':
        return [{ ...none, drive: w.drive }]
      default:
        return [{ ...none, [w.what]: true }]
    }
  })
}

/** Wishes as an option or a kept plan has them. */
export function wishesOf(changes: SlotChange[]): Wishes {
  return Object.fromEntries(
    changes.map((c): [string, Wish] => [
      c.slot,
      c.fit
        ? { what: 'fit', module: c.fit }
        : c.from
          ? { what: 'from', from: c.from }
          : c.drive
            ? { what: 'drive', drive: c.drive }
            : { what: c.empty ? 'empty' : c.reseat ? 'reseat' : 'inspect' },
    ]),
  )
}

/** The wishes that made the plan as it stands. */
export function wishesOfPlan(order: OrderView): Wishes {
  const wishes: Wishes = {}
  const plan = order.plan?.plan
  if (!plan) return wishes
  for (const s of plan.slots) {
    const gaveAway = plan.slots.some((o) => o.from === s.slot)
    if (s.use === 'fit' && s.module) wishes[s.slot] = { what: 'fit', module: s.module }
    else if (s.use === 'move' && s.from) wishes[s.slot] = { what: 'from', from: s.from }
    else if (s.use === 'reseat' || s.use === 'inspect' || (s.use === 'empty' && !gaveAway))
      wishes[s.slot] = { what: s.use }
  }
  const bays = plan.bays ?? []
  for (const b of bays) {
    const gaveAway = bays.some((o) => o.from === b.bay)
    if (b.use === 'fit' && b.wish) wishes[b.bay] = { what: 'drive', drive: b.wish }
    else if (b.use === 'move' && b.from) wishes[b.bay] = { what: 'from', from: b.from }
    else if (b.use === 'reseat' || b.use === 'inspect' || (b.use === 'empty' && !gaveAway))
      wishes[b.bay] = { what: b.use }
  }
  return wishes
}
