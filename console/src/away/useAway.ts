import { useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { refreshCards } from '../api/board'
import { api, type OrderView, type Person } from '../api/client'
import { orderQuery } from '../api/queries'
import { pictureCache } from './names'
import { peopleHere, sawHere } from './people'
import { theQueue } from './queue'

const sendEvery = 3_000
const keepEvery = 5 * 60_000
const afterChange = 15_000

/** Sends what was said on this screen whenever the service can be reached. */
function useSending(client: QueryClient) {
  useEffect(() => {
    const queue = theQueue()
    queue.taken = async (order) => {
      await client.refetchQueries({ queryKey: ['order', order] })
      await refreshCards(client, [order])
    }
    const go = () => void queue.flush()
    go()
    // A connection may come back without anybody telling.
    const timer = setInterval(go, sendEvery)
    window.addEventListener('online', go)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', go)
    }
  }, [client])
}

/** Fetches what whoever works here has in hand, so that it opens without a network too. */
async function keep(client: QueryClient) {
  const owner = peopleHere()
  if (owner.length === 0) return
  const { cards } = (await api.GET('/api/v1/board/cards', { params: { query: { owner } } })).data!
  for (const card of cards) {
    const query = orderQuery(card.number)
    const known = client.getQueryData(query.queryKey)
    const order =
      known?.changedAt === card.changedAt ? known : await client.fetchQuery({ ...query, staleTime: 0 })
    await keepPictures(order)
  }
}

// The service worker keeps what passes through it.
async function keepPictures(order: OrderView) {
  if (!navigator.serviceWorker?.controller) return
  const cache = await caches.open(pictureCache)
  const wanted = [
    ...(order.run?.steps ?? []).flatMap((s) => s.step.pictures.map((hash) => `/api/v1/pictures/${hash}`)),
    ...order.photos.map((p) => `/api/v1/pictures/${p.hash}?small=true`),
  ]
  for (const url of new Set(wanted)) if (!(await cache.match(url))) await fetch(url)
}

function useKeeping(client: QueryClient, person: string) {
  useEffect(() => {
    sawHere(person)
    // Whatever is not there now is kept the next time.
    const go = () => void keep(client).catch(() => {})
    let soon: ReturnType<typeof setTimeout> | undefined
    const first = setTimeout(go, 1_000)
    const timer = setInterval(go, keepEvery)
    const changed = () => {
      clearTimeout(soon)
      soon = setTimeout(go, afterChange)
    }
    window.addEventListener('revtal:changed', changed)
    return () => {
      clearTimeout(first)
      clearTimeout(soon)
      clearInterval(timer)
      window.removeEventListener('revtal:changed', changed)
    }
  }, [client, person])
}

/** What a screen does so that the network may go at any moment. */
export function useAway(person: Person) {
  const client = useQueryClient()
  useSending(client)
  useKeeping(client, person.id)
}
