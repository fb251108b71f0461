import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import type { Change } from './client'

/** Follows the service's live changes and has what they touch fetched again. True while connected. */
export function useLiveChanges() {
  const client = useQueryClient()
  const [connected, setConnected] = useState(true)
  useEffect(() => {
    const source = new EventSource('/api/v1/changes')
    // The first change is fetched at once; those that follow in a burst are fetched together.
    let orders = new Set<number>()
    let timer: ReturnType<typeof setTimeout> | undefined
    const refresh = () => {
      timer = undefined
      if (orders.size === 0) return
      for (const order of orders) void client.invalidateQueries({ queryKey: ['order', order] })
      void client.invalidateQueries({ queryKey: ['board'] })
      void client.invalidateQueries({ queryKey: ['search'] })
      orders = new Set()
    }
    source.onmessage = (event: MessageEvent<string>) => {
      orders.add((JSON.parse(event.data) as Change).order)
      if (timer !== undefined) return
      refresh()
      timer = setTimeout(refresh, 30)
    }
    source.onopen = () => setConnected(true)
    source.onerror = () => setConnected(false)
    return () => {
      source.close()
      clearTimeout(timer)
    }
  }, [client])
  return connected
}
