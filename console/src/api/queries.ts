import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, isLost, newKey, type Receipt } from './client'

export const boardQuery = queryOptions({
  queryKey: ['board'],
  queryFn: async () => (await api.GET('/api/v1/board')).data!,
})

export const orderQuery = (number: number) =>
  queryOptions({
    queryKey: ['order', number],
    queryFn: async () => (await api.GET('/api/v1/orders/{number}', { params: { path: { number } } })).data!,
  })

export const searchQuery = (text: string) =>
  queryOptions({
    queryKey: ['search', text],
    queryFn: async () => (await api.GET('/api/v1/orders', { params: { query: { text } } })).data!,
  })

export const shopQuery = queryOptions({
  queryKey: ['shop'],
  queryFn: async () => (await api.GET('/api/v1/shop')).data!,
  staleTime: 60_000,
})

export const guidesQuery = queryOptions({
  queryKey: ['guides'],
  queryFn: async () => (await api.GET('/api/v1/guides')).data!,
  staleTime: 60_000,
})

export const guideQuery = (code: string) =>
  queryOptions({
    queryKey: ['guide', code],
    queryFn: async () => (await api.GET('/api/v1/guides/{code}', { params: { path: { code } } })).data!,
    staleTime: 60_000,
  })

type Header = ReturnType<typeof newKey>

/**
 * One change of an order. The key is made once a press and sent again only when the connection was lost, so nothing is recorded twice.
 */
export function useChange<V>(send: (value: V, header: Header) => Promise<{ data?: Receipt }>) {
  const client = useQueryClient()
  const { mutate, ...rest } = useMutation({
    mutationFn: async ({ value, header }: { value: V; header: Header }) => (await send(value, header)).data!,
    retry: (count, error) => isLost(error) && count < 3,
    onSuccess: (receipt) =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['order', receipt.order] }),
        client.invalidateQueries({ queryKey: ['board'] }),
      ]),
  })
  return {
    ...rest,
    send: (value: V, done?: (receipt: Receipt) => void) =>
      mutate({ value, header: newKey() }, { onSuccess: (receipt) => done?.(receipt) }),
  }
}
