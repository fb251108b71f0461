import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import {
  api,
  isLost,
  newKey,
  Problem,
  send,
  type BatchChange,
  type BatchReceipt,
  type BatchView,
  type OrderAct,
} from '../api/client'

export const batchQuery = (batch: number) =>
  queryOptions({
    queryKey: ['batch', batch],
    queryFn: async () => {
      if (!Number.isInteger(batch))
        throw new Problem(404, 'no-such-batch', 'A batch is called by its first order, like 125.')
      return (await api.GET('/api/v1/batches/{batch}', { params: { path: { batch } } })).data!
    },
  })

/** The orders that an act is for now. */
export const ordersFor = (batch: BatchView, act: OrderAct) =>
  batch.can.find((a) => a.act === act)?.orders ?? []

/** At which steps its machines stand. */
export const batchRunQuery = (batch: number) =>
  queryOptions({
    queryKey: ['batch', batch, 'run'],
    queryFn: async () =>
      (await api.GET('/api/v1/batches/{batch}/run', { params: { path: { batch } } })).data!,
  })

/** A list of serials as it would be taken in. */
export const batchListQuery = (text: string) =>
  queryOptions({
    queryKey: ['batch-list', text],
    queryFn: async () => (await api.POST('/api/v1/batches/list', { body: { text } })).data!,
    enabled: text.trim() !== '',
    placeholderData: (old) => old,
    retry: false,
  })

/** What one machine's plan would lead to on the others. */
export const batchPreviewQuery = (batch: number, like: number | null, heads: string) =>
  queryOptions({
    queryKey: ['batch', batch, 'preview', like, heads],
    queryFn: async () =>
      (
        await api.POST('/api/v1/batches/{batch}/plan/preview', {
          params: { path: { batch } },
          body: { like },
        })
      ).data!,
    enabled: like !== null,
    retry: false,
  })

/** One change of all machines of a batch; the key is made once a press. */
export function useBatchChange(batch: number) {
  const client = useQueryClient()
  const { mutate, ...rest } = useMutation({
    mutationFn: async ({ value, key }: { value: BatchChange; key: string }) =>
      (await (await send('POST', `batches/${batch}/${value.path}`, value.body, key)).json()) as BatchReceipt,
    retry: (count, error) => isLost(error) && count < 3,
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['batch'] }),
        client.invalidateQueries({ queryKey: ['order'] }),
        client.invalidateQueries({ queryKey: ['board'] }),
      ]),
  })
  return {
    ...rest,
    send: (value: BatchChange, done?: () => void) =>
      mutate({ value, key: newKey()['Idempotency-Key'] }, { onSuccess: () => done?.() }),
  }
}
