import { queryOptions, type QueryClient } from '@tanstack/react-query'
import { api, type HereView } from './client'

/** Who has an order open; told by live changes, and asked for once they are heard. */
export const hereQuery = (order: number) =>
  queryOptions({
    queryKey: ['here', order],
    queryFn: async () =>
      (await api.GET('/api/v1/orders/{number}/here', { params: { path: { number: order } } })).data!,
    staleTime: Infinity,
  })

/** What a live change tells. */
export const tellHere = (client: QueryClient, here: HereView) =>
  client.setQueryData(hereQuery(here.order).queryKey, here)
