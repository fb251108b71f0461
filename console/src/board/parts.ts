import type { Late, OrderCard } from '../api/client'
import { spoken, stages } from '../words'

/** What stands in the address of the board. */
export type Shown = { by?: 'person' | 'place'; owner?: string; place?: string; find?: string }

export const nobody = 'nobody'
export const nowhere = 'nowhere'

/** Reads the address; what it does not know it leaves out. */
export const shownOf = (search: Record<string, unknown>): Shown => ({
  by: search.by === 'person' || search.by === 'place' ? search.by : undefined,
  owner: typeof search.owner === 'string' ? search.owner : undefined,
  place: typeof search.place === 'string' ? search.place : undefined,
  // A number in the address is read as one.
  find: search.find === undefined ? undefined : String(search.find as string),
})

const ownerOf = (card: OrderCard) => card.owner ?? nobody
const placeOf = (card: OrderCard) => card.place ?? nowhere

/** The cards that the address asks for. */
export const wanted = (cards: OrderCard[], { owner, place }: Shown) =>
  cards.filter((c) => (!owner || ownerOf(c) === owner) && (!place || placeOf(c) === place))

const distinct = (words: string[], last: string) =>
  [...new Set(words)].sort((a, b) => Number(a === last) - Number(b === last) || a.localeCompare(b))

export const owners = (cards: OrderCard[]) => distinct(cards.map(ownerOf), nobody)
export const places = (cards: OrderCard[]) => distinct(cards.map(placeOf), nowhere)

export type Column = { id: string; title: string; cards: OrderCard[] }

/** The columns of the board. */
export function columnsOf(cards: OrderCard[], by: Shown['by']): Column[] {
  const ids = by === 'person' ? owners(cards) : by === 'place' ? places(cards) : stages
  const of = by === 'person' ? ownerOf : by === 'place' ? placeOf : (c: OrderCard) => c.stage
  return ids.map((id) => ({
    id,
    title: by ? id : spoken(id),
    cards: cards.filter((c) => of(c) === id),
  }))
}

/** What is late or will be first, then by the promised time, then by number. */
export function byDue(cards: OrderCard[], late: Late[]): OrderCard[] {
  const broken = new Set(late.map((l) => l.number))
  const due = (c: OrderCard) => (c.promisedAt ? Date.parse(c.promisedAt) : Infinity)
  const weight = (c: OrderCard) => (broken.has(c.number) ? 0 : 1)
  return [...cards].sort(
    (a, b) => weight(a) - weight(b) || (due(a) === due(b) ? a.number - b.number : due(a) - due(b)),
  )
}
