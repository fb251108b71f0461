import type { Query, QueryClient } from '@tanstack/react-query'
import { pictureCache } from './names'
import { theStore } from './store'

// What a page of the bench cannot do without.
const kinds = new Set(['session', 'shop', 'board', 'order', 'guide'])

const isKept = ({ queryKey }: Pick<Query, 'queryKey'>) =>
  kinds.has(String(queryKey[0])) && queryKey.length <= 2

// What nobody has asked for since is let go.
const longest = 14 * 24 * 60 * 60_000

const nameOf = (key: readonly unknown[]) => key.join(':')

const keyOf = (name: string) => name.split(':').map((part) => (/^\d+$/.test(part) ? Number(part) : part))

/** Puts what was kept where the pages look for it. It is as old as it says: what can be asked for anew is. */
export async function restoreKept(client: QueryClient) {
  const { store } = await theStore()
  const all = (await store?.getAll('kept').catch(() => [])) ?? []
  for (const { key, data, at } of all) {
    if (at < Date.now() - longest) void store?.delete('kept', key).catch(() => {})
    else client.setQueryData(keyOf(key), data, { updatedAt: at })
  }
  await client.invalidateQueries({ refetchType: 'none' })
}

/** Keeps each answer of these kinds as it comes. */
export function keepAnswers(client: QueryClient) {
  return client.getQueryCache().subscribe((event) => {
    if (event.type !== 'updated' || event.action.type !== 'success' || !isKept(event.query)) return
    const { data, dataUpdatedAt: at } = event.query.state
    void theStore().then(({ store }) =>
      store?.put('kept', { key: nameOf(event.query.queryKey), data, at }).catch(() => {}),
    )
  })
}

/** Nobody is signed in here any more: what was read in their name goes. What they said and is not sent yet stays. */
export async function forgetKept() {
  const { store } = await theStore()
  await store?.clear('kept').catch(() => {})
  await globalThis.caches?.delete(pictureCache)
}
