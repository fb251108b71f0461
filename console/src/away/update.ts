import { Workbox } from 'workbox-window'
import { flag } from '../parts/flag'

const newer = flag(false)
let worker: Workbox | undefined

/** From now on the console opens without a network. */
export function installConsole() {
  if (worker || !('serviceWorker' in navigator) || !import.meta.env.PROD) return
  worker = new Workbox('/sw.js')
  worker.addEventListener('waiting', () => newer.set(true))
  void worker.register().catch(() => {})
}

/** A newer console is there; nothing changes before somebody says so. */
export const useNewer = newer.use

/** Loads the newer console. */
export function takeNewer() {
  worker?.addEventListener('controlling', () => location.reload())
  worker?.messageSkipWaiting()
}

// Another tab took the newer one, and a part of this one is there no more.
window.addEventListener('vite:preloadError', () => location.reload())
