import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { StepClosed } from '../api/client'

/** Something said on this screen that the service has not answered yet. */
export type Said = {
  key: string
  /** Counts up: what was said first is sent first. */
  place: number
  order: number
  path: string
  /** JSON, or a photo. */
  body: unknown
  step: string
  /** What it is called in a list. */
  title: string
  /** Whether it confirms its step. */
  confirms: boolean
  /** Whose hands it was; it is sent when they are signed in here. */
  by: string | null
  /** When, by this screen's clock, and how far the service's was known to be ahead. */
  at: number
  ahead: number
  /** What the screen keeps of it, by name: of no use once the service has taken it. */
  keeps?: string[]
  /** Why the service did not take it. */
  refused?: StepClosed
}

/** An answer of the service, kept for when it cannot be asked. */
export type Kept = { key: string; data: unknown; at: number }

interface Shelf extends DBSchema {
  said: { key: string; value: Said }
  kept: { key: string; value: Kept }
  /** What was found and could not be understood. */
  aside: { key: number; value: unknown }
}

export type Store = IDBPDatabase<Shelf>

// A damaged one is left where it is, and the next begun.
const names = ['revtal', 'revtal-2', 'revtal-3']

const open = (name: string) =>
  openDB<Shelf>(name, 1, {
    upgrade(db) {
      db.createObjectStore('said', { keyPath: 'key' })
      db.createObjectStore('kept', { keyPath: 'key' })
      db.createObjectStore('aside', { autoIncrement: true })
    },
  })

export type Opened = {
  /** Null where this browser keeps nothing. */
  store: Store | null
  /** Whether an earlier store could not be opened. */
  damaged: boolean
}

/** Opens what this screen keeps; a store that cannot be opened or read is set aside, never deleted. */
export async function openStore(all = names): Promise<Opened> {
  for (const [i, name] of all.entries()) {
    try {
      const store = await open(name)
      await store.count('said')
      return { store, damaged: i > 0 }
    } catch {
      // The next one.
    }
  }
  return { store: null, damaged: true }
}

let opening: Promise<Opened> | undefined

/** The one store of this page. */
export const theStore = () => (opening ??= openStore())

const isSaid = (value: unknown): value is Said => {
  const said = value as Partial<Said> | null
  return (
    typeof said === 'object' &&
    said !== null &&
    typeof said.key === 'string' &&
    typeof said.path === 'string' &&
    typeof said.order === 'number' &&
    typeof said.place === 'number' &&
    typeof said.at === 'number'
  )
}

/** All that waits, first said first; what cannot be understood is moved aside. */
export async function readSaid(store: Store): Promise<Said[]> {
  const good: Said[] = []
  for (const key of await store.getAllKeys('said')) {
    // A record that cannot even be read is told by its key.
    const value: unknown = await store.get('said', key).catch(() => ({ key, unreadable: true }))
    if (isSaid(value)) good.push(value)
    else if (value !== undefined) await setAside(store, key, value)
  }
  return good.sort((a, b) => a.place - b.place)
}

async function setAside(store: Store, key: string, value: unknown) {
  const moving = store.transaction(['said', 'aside'], 'readwrite')
  // Another tab may have moved it already.
  if ((await moving.objectStore('said').getKey(key)) !== undefined) {
    await moving.objectStore('aside').add(value)
    await moving.objectStore('said').delete(key)
  }
  await moving.done
}

/** Writes or, without a value, removes what was said; on disk when it ends. */
export async function writeSaid(store: Store, key: string, said: Said | null) {
  const writing = store.transaction('said', 'readwrite', { durability: 'strict' })
  await Promise.all([said ? writing.store.put(said) : writing.store.delete(key), writing.done])
}
