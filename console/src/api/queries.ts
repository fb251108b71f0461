import { infiniteQueryOptions, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { refreshCards } from './board'
import {
  api,
  isLost,
  newKey,
  Problem,
  send,
  type MemoryModule,
  type OrderChange,
  type OrderView,
  type Receipt,
  type SlotChange,
} from './client'

/** A list that goes on page by page. */
const pagesOf = <T extends { next: string | null }>(
  queryKey: unknown[],
  get: (after: string | undefined) => Promise<{ data?: T }>,
) =>
  infiniteQueryOptions({
    queryKey,
    queryFn: async ({ pageParam }) => (await get(pageParam)).data!,
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page: T) => page.next ?? undefined,
  })

export const orderQuery = (number: number) =>
  queryOptions({
    queryKey: ['order', number],
    queryFn: async () => {
      if (!Number.isInteger(number))
        throw new Problem(404, 'no-such-order', 'An order’s number has digits only, like 104.')
      return (await api.GET('/api/v1/orders/{number}', { params: { path: { number } } })).data!
    },
  })

export const searchQuery = (text: string) =>
  pagesOf(['search', text], (after) => api.GET('/api/v1/orders', { params: { query: { text, after } } }))

export const shopQuery = queryOptions({
  queryKey: ['shop'],
  queryFn: async () => (await api.GET('/api/v1/shop')).data!,
  staleTime: 60_000,
})

/** Where one is signed in; everybody's for a lead. */
export const sessionsQuery = queryOptions({
  queryKey: ['sessions'],
  queryFn: async () => (await api.GET('/api/v1/session/all')).data!,
})

/** Who came in, and what was done about people; newest first. */
export const auditQuery = pagesOf(['audit'], (after) =>
  api.GET('/api/v1/shop/audit', { params: { query: { after } } }),
)

/** @param text Found anywhere in the guide; empty for all. */
export const guidesQuery = (text = '') =>
  pagesOf(['guides', text], (after) =>
    api.GET('/api/v1/guides', { params: { query: { text, after, limit: 500 } } }),
  )

export const guideQuery = (code: string) =>
  queryOptions({
    queryKey: ['guide', code],
    queryFn: async () => (await api.GET('/api/v1/guides/{code}', { params: { path: { code } } })).data!,
    staleTime: 60_000,
  })

// What a new guide begins with: all that it must have, for hands to fill.
export const blankGuide = (code: string) => `format: revtal-guide/1
model: { maker: "", name: "", code: ${code}, kind: laptop }
memory:
  generation: DDR4
  module: SO-DIMM
  speeds: [3200]
  stated-max: 32 GB
  slots:
    - { id: S1, channel: A, reach: cover, angle: 30, latch: spread-both, at: [0.5, 0.4] }
  populate: { 1: [S1] }
isolate: [shut-down-not-sleep, unplug, ground-yourself]
removals:
  - id: cover
    title: cover
    needs: [isolated]
    fasteners:
      - { group: cover, driver: PH0, length: 5 mm, count: 1, at: [[0.5, 0.9]] }
    minutes: 2
`

/** The newest revision's file; the beginning of one where there is none. */
export const fileQuery = (code: string) =>
  queryOptions({
    queryKey: ['guide', code, 'file'],
    queryFn: async () => {
      try {
        return await (await send('GET', `guides/${code}/file`, null)).text()
      } catch (error) {
        if (error instanceof Problem && error.code === 'no-such-model') return blankGuide(code)
        throw error
      }
    },
    retry: false,
  })

/** All that somebody works on. */
export const draftsQuery = queryOptions({
  queryKey: ['draft', 'all'],
  queryFn: async () => (await api.GET('/api/v1/drafts')).data!,
})

/** The draft; null where nobody works on one. */
export const draftQuery = (code: string) =>
  queryOptions({
    queryKey: ['draft', code],
    queryFn: async () => {
      try {
        return (await api.GET('/api/v1/guides/{code}/draft', { params: { path: { code } } })).data!
      } catch (error) {
        if (error instanceof Problem && error.code === 'no-draft') return null
        throw error
      }
    },
  })

/** What a model's starts showed, counted. */
export const signsQuery = (code: string) =>
  queryOptions({
    queryKey: ['guide', code, 'signs'],
    queryFn: async () => (await api.GET('/api/v1/guides/{code}/signs', { params: { path: { code } } })).data!,
  })

export const revisionsQuery = (code: string) =>
  queryOptions({
    queryKey: ['revisions', code],
    queryFn: async () =>
      (await api.GET('/api/v1/guides/{code}/revisions', { params: { path: { code } } })).data!,
  })

export const compareQuery = (code: string, from?: string, to?: string) =>
  queryOptions({
    queryKey: ['compare', code, from, to],
    queryFn: async () =>
      (await api.GET('/api/v1/guides/{code}/compare', { params: { path: { code }, query: { from, to } } }))
        .data!,
    retry: false,
  })

export const suggestionsQuery = (code?: string) =>
  pagesOf(['suggestions', code], (after) =>
    api.GET('/api/v1/suggestions', { params: { query: { code, state: 'open', after } } }),
  )

/** What a plan would lead to and cost. */
export const previewQuery = (order: OrderView, changes: SlotChange[], discount: number, cleans: boolean) =>
  queryOptions({
    queryKey: ['preview', order.number, order.head, changes, discount, cleans],
    queryFn: async () =>
      (
        await api.POST('/api/v1/orders/{number}/plan/preview', {
          params: { path: { number: order.number } },
          body: { changes, discount, cleans },
        })
      ).data!,
    retry: false,
    staleTime: 30_000,
  })

/** Benchmarks and load, and where it stands among its like. */
export const scoresQuery = (order: OrderView) =>
  queryOptions({
    queryKey: ['scores', order.number, order.head],
    queryFn: async () =>
      (await api.GET('/api/v1/orders/{number}/scores', { params: { path: { number: order.number } } })).data!,
  })

export const dummiesQuery = queryOptions({
  queryKey: ['dummies'],
  queryFn: async () => (await api.GET('/api/v1/dummies')).data!,
})

export const quoteQuery = (order: OrderView) =>
  queryOptions({
    queryKey: ['quote', order.number, order.head],
    queryFn: async () =>
      (await api.GET('/api/v1/orders/{number}/quote', { params: { path: { number: order.number } } })).data!,
    enabled: order.plan !== null,
    retry: false,
  })

export const reportQuery = (number: number) =>
  queryOptions({
    queryKey: ['order', number, 'report'],
    queryFn: async () =>
      (await api.GET('/api/v1/orders/{number}/report', { params: { path: { number } } })).data!,
    retry: false,
  })

/** The invoice that stands, else as it would be made now. */
export const invoiceQuery = (number: number) =>
  queryOptions({
    queryKey: ['order', number, 'invoice'],
    queryFn: async () =>
      (await api.GET('/api/v1/orders/{number}/invoice', { params: { path: { number } } })).data!,
    retry: false,
  })

/** Every number of the shop's invoices, oldest first. */
export const invoicesQuery = pagesOf(['invoices'], (after) =>
  api.GET('/api/v1/invoices', { params: { query: { after } } }),
)

export type OptionsWish = {
  target?: string
  workload?: string
  budget?: number
  stages: number
  giveUp: string[]
  later?: boolean
}

/**
 * Changes of drives worth offering.
 * @param growth What is to come onto them; empty for what the service takes.
 * @param later For the machine as the order leaves it.
 */
export const driveOptionsQuery = (order: OrderView, growth: string, later: boolean) =>
  queryOptions({
    queryKey: ['drive-options', order.number, order.head, growth, later],
    queryFn: async () =>
      (
        await api.GET('/api/v1/orders/{number}/drive-options', {
          params: { path: { number: order.number }, query: { growth: growth || undefined, later } },
        })
      ).data!,
    retry: false,
  })

export const optionsQuery = (number: number, { giveUp, ...wish }: OptionsWish) =>
  queryOptions({
    queryKey: ['options', number, wish, giveUp],
    queryFn: async () =>
      (
        await api.GET('/api/v1/orders/{number}/options', {
          params: { path: { number }, query: { ...wish, 'give-up': giveUp } },
        })
      ).data!,
    retry: false,
  })

/** Where these modules and the kept ones sit best, and why. */
export async function bestLayout(order: OrderView, kept: string[], parts: MemoryModule[]) {
  return (
    await api.POST('/api/v1/orders/{number}/layout', {
      params: { path: { number: order.number } },
      body: { kept, parts },
    })
  ).data!
}

/** The parts that could go into this order's machine; why not, of those that do not suit it. */
export const shelfQuery = (number: number, text: string) =>
  queryOptions({
    queryKey: ['shelf', number, text],
    queryFn: async () =>
      (await api.GET('/api/v1/orders/{number}/shelf', { params: { path: { number }, query: { text } } }))
        .data!,
  })

/**
 * @param text Found in number, barcode, name or what it is; empty for all.
 * @param onlyShort Only what should be ordered.
 */
export const partsQuery = (text = '', onlyShort = false) =>
  pagesOf(['parts', text, onlyShort], (after) =>
    api.GET('/api/v1/parts', { params: { query: { text, after, 'only-short': onlyShort } } }),
  )

export const machineQuery = (serial: string | null) =>
  queryOptions({
    queryKey: ['machine', serial],
    queryFn: async () =>
      (await api.GET('/api/v1/machines/{serial}', { params: { path: { serial: serial ?? '' } } })).data!,
    enabled: serial !== null,
    retry: false,
  })

export const arrivalsQuery = queryOptions({
  queryKey: ['arrivals'],
  queryFn: async () => (await api.GET('/api/v1/arrivals')).data!,
})

/** What a machine told, held against the model and the serial that are written down. */
export const arrivalQuery = (id: string | null, model: string, serial: string) =>
  queryOptions({
    queryKey: ['arrival', id, model, serial],
    queryFn: async () =>
      (
        await api.GET('/api/v1/arrivals/{id}', {
          params: { path: { id: id ?? '' }, query: { ...(model && { model }), ...(serial && { serial }) } },
        })
      ).data!,
    enabled: id !== null,
  })

/** What another revision of its guide would change for an order. */
export const adoptionQuery = (order: OrderView) =>
  queryOptions({
    queryKey: ['order', order.number, 'adoption', order.head, order.newerRevision],
    queryFn: async () =>
      (await api.GET('/api/v1/orders/{number}/adoption', { params: { path: { number: order.number } } }))
        .data!,
    enabled: order.newerRevision !== null,
  })

type Header = ReturnType<typeof newKey>

/** One change of an order whose path is told with it. */
export const useTold = (order: number) =>
  useChange(async ({ path, body }: OrderChange, header) => ({
    data: (await (
      await send('POST', `orders/${order}/${path}`, body, header['Idempotency-Key'])
    ).json()) as Receipt,
  }))

/**
 * The same where it rests on what the order says: what else of it changed meanwhile does no harm, and what changed
 * beneath it is refused.
 * @param still Whether what it rests on is as it was.
 */
export const useRested = (order: OrderView, still: (now: OrderView) => boolean) => {
  const onTop = useOnTop(order, still)
  return useChange(({ path, body }: OrderChange, header) =>
    onTop(async (match) => {
      const sent = await send(
        'POST',
        `orders/${order.number}/${path}`,
        body,
        header['Idempotency-Key'],
        undefined,
        match,
      )
      return { data: (await sent.json()) as Receipt }
    }),
  )
}

/** Sends on the order as it was seen; where it moved on and the ground is the same, once more on top of that. */
export const useOnTop = (order: OrderView, still: (now: OrderView) => boolean) => {
  const client = useQueryClient()
  return async <R>(post: (match: { 'If-Match': string }) => Promise<R>): Promise<R> => {
    for (let now = order; ;) {
      try {
        return await post({ 'If-Match': `"${now.head}"` })
      } catch (error) {
        if (!(error instanceof Problem) || error.status !== 412) throw error
        now = await client.fetchQuery({ ...orderQuery(order.number), staleTime: 0 })
        if (!still(now)) throw error
      }
    }
  }
}

/**
 * One change of an order. The key is made once a press and sent again only when the connection was lost,
 * so nothing is recorded twice.
 */
export function useChange<V>(send: (value: V, header: Header) => Promise<{ data?: Receipt }>) {
  const client = useQueryClient()
  const { mutate, ...rest } = useMutation({
    mutationFn: async ({ value, header }: { value: V; header: Header }) => (await send(value, header)).data!,
    retry: (count, error) => isLost(error) && count < 3,
    onSuccess: (receipt) =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['order', receipt.order] }),
        refreshCards(client, [receipt.order]),
      ]),
  })
  return {
    ...rest,
    send: (value: V, done?: (receipt: Receipt) => void) =>
      mutate({ value, header: newKey() }, { onSuccess: (receipt) => done?.(receipt) }),
  }
}

export const tabletsQuery = queryOptions({
  queryKey: ['tablets'],
  queryFn: async () => (await api.GET('/api/v1/shop/tablets')).data!,
})

/** Other programs that are told; for leads. */
export const webhooksQuery = queryOptions({
  queryKey: ['webhooks'],
  queryFn: async () => (await api.GET('/api/v1/shop/webhooks')).data!,
})

/** What one of them was told; asked again with it. */
export const webhookMessagesQuery = (webhook: string) =>
  pagesOf([...webhooksQuery.queryKey, webhook], (after) =>
    api.GET('/api/v1/shop/webhooks/{webhook}/messages', { params: { path: { webhook }, query: { after } } }),
  )

/** The store as leads see it; asked again while something is done with it. */
export const storeQuery = queryOptions({
  queryKey: ['store'],
  queryFn: async () => (await api.GET('/api/v1/shop/store')).data!,
  refetchInterval: ({ state }) => (state.data?.backups.some((b) => !b.endedAt) ? 500 : false),
})

/** The newest look through the store; asked again while it goes on. */
export const verificationQuery = queryOptions({
  queryKey: ['verification'],
  queryFn: async () => (await api.GET('/api/v1/shop/store/verify')).data!,
  refetchInterval: ({ state }) => (state.data?.beganAt && !state.data.endedAt ? 400 : false),
})

/** What concerns whoever asks. */
export const noticesQuery = pagesOf(['notices'], (after) =>
  api.GET('/api/v1/notices', { params: { query: { after } } }),
)
