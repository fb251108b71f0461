import { queryOptions, skipToken, type QueryClient } from '@tanstack/react-query'
import type { HereView } from './client'

/** Who has an order open: told in answer to a page's own word and by live changes, never fetched on its own. */
export const hereQuery = (order: number) =>
  queryOptions<HereView>({ queryKey: ['here', order], queryFn: skipToken, staleTime: Infinity })

/** An answer and a live change may overtake each other: the later word counts. */
export const tellHere = (client: QueryClient, here: HereView) =>
  client.setQueryData(hereQuery(here.order).queryKey, (known) =>
    known && Date.parse(known.at) > Date.parse(here.at) ? known : here,
  )

/** Nobody can be told of, until somebody is. */
export const tellNobody = (client: QueryClient, order: number) =>
  client.setQueryData(hereQuery(order).queryKey, { order, people: [], at: new Date(0).toISOString() })
