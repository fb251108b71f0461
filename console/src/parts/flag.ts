import { useSyncExternalStore } from 'react'

/** A yes or no that all of the page shares. */
export function flag(begin: boolean) {
  let now = begin
  const listeners = new Set<() => void>()
  const subscribe = (listener: () => void) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }
  return {
    set(next: boolean) {
      if (next === now) return
      now = next
      for (const listener of listeners) listener()
    },
    use: () => useSyncExternalStore(subscribe, () => now),
  }
}
