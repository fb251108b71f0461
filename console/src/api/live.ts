import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { flag } from '../parts/flag'
import { refreshCards } from './board'
import { tellHere } from './here'
import type { Change, HereView, ShopChange } from './client'

/** What is asked for of each part of the shop: the first words of the queries. */
const asked: Record<NonNullable<ShopChange['topic']>, string[]> = {
  parts: ['parts', 'part', 'shelf', 'options', 'cards'],
  guides: ['guides', 'guide', 'draft', 'revisions', 'compare', 'suggestions'],
  people: ['shop'],
  dummies: ['dummies'],
  arrivals: ['arrivals', 'arrival'],
}

let hears = true
const connection = flag(true)

function setConnected(now: boolean) {
  hears = now
  look()
}

// A stream that was cut off may say nothing for minutes; the browser knows at once that its network has gone.
const look = () => connection.set(hears && navigator.onLine)
window.addEventListener('online', look)
window.addEventListener('offline', look)

/** Whether the page that is open hears of changes. */
export const useConnected = connection.use

/** Follows the service's live changes and has what they touch fetched again. True while connected. */
export function useLiveChanges() {
  const client = useQueryClient()
  const connected = useConnected()
  useEffect(() => {
    const source = new EventSource('/api/v1/changes')
    // The first change is fetched at once; those that follow in a burst are fetched together.
    let orders = new Set<number>()
    let timer: ReturnType<typeof setTimeout> | undefined
    const refresh = () => {
      timer = undefined
      if (orders.size === 0) return
      for (const order of orders) void client.invalidateQueries({ queryKey: ['order', order] })
      void refreshCards(client, [...orders])
      void client.invalidateQueries({ queryKey: ['batch'] })
      void client.invalidateQueries({ queryKey: ['search'] })
      void client.invalidateQueries({ queryKey: ['notices'] })
      void client.invalidateQueries({ queryKey: ['invoices'] })
      // An order moves what lies on the shelf.
      void client.invalidateQueries({ queryKey: ['parts'] })
      void client.invalidateQueries({ queryKey: ['part'] })
      void client.invalidateQueries({ queryKey: ['cards'] })
      window.dispatchEvent(new Event('revtal:changed'))
      orders = new Set()
    }
    source.onmessage = (event: MessageEvent<string>) => {
      orders.add((JSON.parse(event.data) as Change).order)
      if (timer !== undefined) return
      refresh()
      timer = setTimeout(refresh, 30)
    }
    const refreshShop = (topic: ShopChange['topic']) => {
      for (const key of topic ? asked[topic] : Object.values(asked).flat())
        void client.invalidateQueries({ queryKey: [key] })
      // What came to the shelf, an order may have waited for.
      if (topic === 'parts') void refreshCards(client, [])
    }
    source.addEventListener('shop', (event: MessageEvent<string>) =>
      refreshShop((JSON.parse(event.data) as ShopChange).topic),
    )
    source.addEventListener('here', (event: MessageEvent<string>) =>
      tellHere(client, JSON.parse(event.data) as HereView),
    )
    let away = false
    let heard = false
    source.onopen = () => {
      setConnected(true)
      window.dispatchEvent(new Event('revtal:hears'))
      // Orders catch up by themselves, but for what changed before this page first listened.
      if (!heard) void client.invalidateQueries()
      else if (away) refreshShop(null)
      away = false
      heard = true
    }
    source.onerror = () => {
      away = true
      setConnected(false)
      // Closed for good: whoever was signed in no longer is.
      if (source.readyState === EventSource.CLOSED) void client.refetchQueries({ queryKey: ['session'] })
    }
    return () => {
      source.close()
      clearTimeout(timer)
    }
  }, [client])
  return connected
}
