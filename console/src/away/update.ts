import { useSyncExternalStore } from 'react'
import { Workbox } from 'workbox-window'

let waiting = false
let worker: Workbox | undefined
const listeners = new Set<() => void>()

/** From now on the console opens without a network. */
export function installConsole() {
  if (worker || !('serviceWorker' in navigator) || !import.meta.env.PROD) return
  worker = new Workbox('/sw.js')
  worker.addEventListener('waiting', () => {
    waiting = true
    for (const listener of listeners) listener()
  })
  void worker.register().catch(() => {})
}

/** A newer console is there; nothing changes before somebody says so. */
export const useNewer = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => waiting,
  )

/** Loads the newer console. */
export function takeNewer() {
  worker?.addEventListener('controlling', () => location.reload())
  worker?.messageSkipWaiting()
}

// Another tab took the newer one, and a part of this one is there no more.
window.addEventListener('vite:preloadError', () => location.reload())
