import type { OrderAct, OrderView } from '../api/client'

// What may be done when is decided in one table, and served with each order. Nothing here knows a stage.

/** Whether the order takes this act now. */
export const may = (order: OrderView, act: OrderAct): boolean =>
  order.actions.some((a) => a.act === act && a.whyNot === null)

/** Why it does not, in words that say what comes first; null where it does, or where nobody would look for it. */
export const whyNot = (order: OrderView, act: OrderAct): string | null =>
  order.actions.find((a) => a.act === act)?.whyNot ?? null
