import { queryOptions, type QueryClient } from '@tanstack/react-query'
import { api, type BoardView } from './client'

/** All open orders. */
export const boardQuery = queryOptions({
  queryKey: ['board'],
  queryFn: async () => (await api.GET('/api/v1/board')).data!,
})

// More than a screen follows one by one.
const most = 50

/**
 * Has the board's cards of these orders as they are now, and what is late: a change brings its card, and not the whole
 * board. Where that fails the board is asked for anew.
 */
export const refreshCards = (client: QueryClient, orders: number[]) =>
  patch(client, orders).catch(() => client.invalidateQueries({ queryKey: boardQuery.queryKey }))

/** The cards of some orders as they are now. */
export const cardsQuery = (order: number[]) =>
  queryOptions({
    queryKey: ['cards', order],
    queryFn: async () => (await api.GET('/api/v1/board/cards', { params: { query: { order } } })).data!,
  })

async function patch(client: QueryClient, orders: number[]) {
  const board = client.getQueryData(boardQuery.queryKey)
  if (!board || orders.length > most) return client.invalidateQueries({ queryKey: boardQuery.queryKey })
  const now = (await api.GET('/api/v1/board/cards', { params: { query: { order: orders } } })).data!
  const { batches } = board
  // What a batch tells is the service's to say.
  if (
    now.cards.some((c) => c.batch !== null) ||
    batches.some((b) => b.orders.some((o) => orders.includes(o)))
  )
    return client.invalidateQueries({ queryKey: boardQuery.queryKey })
  client.setQueryData(
    boardQuery.queryKey,
    (kept): BoardView | undefined =>
      kept && {
        ...kept,
        late: now.late,
        partsOwed: now.partsOwed,
        cards: [...kept.cards.filter((c) => !orders.includes(c.number)), ...now.cards].sort(
          (a, b) => a.number - b.number,
        ),
      },
  )
}
