import { useSyncExternalStore } from 'react'
import { isLost, isSignedOut, newId, Problem, send, whoSits, type OrderChange } from '../api/client'
import { clockAhead, screenNow } from '../api/clock'
import { readSaid, theStore, writeSaid, type Opened, type Said } from './store'

export type { Said } from './store'

/** A photo of an order: the one change whose body is no JSON. */
type PhotoChange = { path: `photos?${string}`; body: Blob }

export type Telling = (OrderChange | PhotoChange) & Pick<Said, 'step' | 'title' | 'confirms' | 'keeps'>

export type Say = (what: Telling) => void

/** What the screens of one browser know of what waits. */
export type QueueState = {
  said: Said[]
  /** Whether the last try found nobody. */
  lost: boolean
  /** Whether an earlier store could not be opened. */
  damaged: boolean
  /** Whether what is said here outlives this page. */
  keeps: boolean
}

// Said just now, it is sent as it is.
const soon = 5_000
const news = 'revtal.said'
const turn = 'revtal.sending'

/**
 * What is said is kept on the screen first and then sent, in order and once each: the key is made when the finger
 * lifts, so a lost answer records nothing twice. All tabs share it, and one of them sends. Without a network, or while
 * the service is in trouble, it waits; what the service refuses stays in the list with its reason.
 */
export class SaidQueue {
  private state: QueueState = { said: [], lost: false, damaged: false, keeps: true }
  private readonly listeners = new Set<() => void>()
  private readonly tabs = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(news)
  private readonly ready: Promise<Opened>
  private readonly loaded: Promise<void>
  private waits = 0
  private sending = false
  // Asked again while it was sending.
  private more = false

  /** Called after each one that was taken, before it leaves the list. */
  taken: (order: number) => Promise<unknown> = () => Promise.resolve()

  constructor(store: Promise<Opened> = theStore()) {
    this.ready = store
    this.loaded = this.load()
    this.tabs?.addEventListener('message', () => void this.load())
  }

  readonly snapshot = () => this.state
  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** Ends when it is on disk. */
  async say(order: number, what: Telling) {
    // A step is confirmed as it was said last; what else was refused stays until somebody decides.
    const before = this.state.said.filter(
      (s) => what.confirms && s.confirms && s.order === order && s.step === what.step,
    )
    for (const old of before) await this.put(old.key, null)
    const { path, ...rest } = what
    const key = newId()
    const place = Math.max(screenNow(), ...this.state.said.map((s) => s.place + 1))
    await this.put(key, {
      ...rest,
      key,
      place,
      order,
      path: `orders/${order}/${path}`,
      by: whoSits(),
      at: screenNow(),
      ahead: clockAhead(),
    })
    void this.flush()
  }

  async again(key: string) {
    const said = this.state.said.find((s) => s.key === key)
    if (said) await this.put(key, { ...said, refused: undefined })
    void this.flush()
  }

  drop(key: string) {
    return this.put(key, null)
  }

  /** Sends what waits; another tab that sends is left to it. */
  async flush() {
    await this.loaded
    // What other tabs say is told by them.
    if (this.waits > Date.now() || !nextOf(this.state.said)) return
    this.more = true
    if (this.sending) return
    this.sending = true
    try {
      while (this.more) {
        this.more = false
        if ('locks' in navigator)
          await navigator.locks.request(turn, { ifAvailable: true }, (lock) =>
            lock ? this.send() : undefined,
          )
        else await this.send()
      }
    } finally {
      this.sending = false
    }
  }

  private async send() {
    for (;;) {
      // Another tab may have sent, or said more.
      await this.load()
      const next = nextOf(this.state.said)
      if (!next) return
      try {
        await send(
          'POST',
          next.path,
          next.body,
          next.key,
          typeOf(next.body),
          moments(next),
          patience(next.body),
        )
      } catch (error) {
        if (isSignedOut(error)) return
        if (mayBeTriedAgain(error)) {
          if (!isLost(error)) this.waits = Date.now() + restOf(error)
          this.set({ lost: true })
          return
        }
        this.set({ lost: false })
        // What is already so needs no answer.
        if (!(error instanceof Problem && error.code === 'already-so')) {
          const refused =
            error instanceof Problem
              ? { code: error.code, detail: error.message, answers: error.answers }
              : { code: '', detail: String(error), answers: [] }
          await this.put(next.key, { ...next, refused })
          continue
        }
      }
      this.set({ lost: false })
      // The page is fetched before the mark of the waiting one goes, so that no step flickers back.
      await this.taken(next.order).catch(() => {})
      await this.put(next.key, null)
      for (const kept of next.keeps ?? []) localStorage.removeItem(kept)
    }
  }

  private async load() {
    const { store, damaged } = await this.ready
    if (store && this.state.keeps) this.set({ said: await readSaid(store), damaged })
    else this.set({ damaged, keeps: false })
  }

  private async put(key: string, said: Said | null) {
    const { store } = await this.ready
    // What the disk does not take is sent all the same, and the page says that it is not kept.
    if (store) await writeSaid(store, key, said).catch(() => this.set({ keeps: false }))
    const others = this.state.said.filter((s) => s.key !== key)
    this.set({ said: said ? [...others, said].sort((a, b) => a.place - b.place) : others })
    this.tabs?.postMessage(null)
  }

  private set(change: Partial<QueueState>) {
    const next = { ...this.state, ...change }
    if (isSame(next, this.state)) return
    this.state = next
    for (const listener of this.listeners) listener()
  }
}

/** What may be sent now: of each order what was said first, by whoever is signed in here. */
function nextOf(said: Said[]): Said | undefined {
  const waiting = said.filter((s) => !s.refused)
  return waiting.find(
    (s) =>
      isMine(s) &&
      waiting.every((other) => other.order !== s.order || other.place >= s.place || isMine(other)),
  )
}

// What is kept is read anew at every turn, and mostly as it was.
const isSame = (a: QueueState, b: QueueState) =>
  a.lost === b.lost &&
  a.damaged === b.damaged &&
  a.keeps === b.keeps &&
  a.said.length === b.said.length &&
  a.said.every((s, i) => s.key === b.said[i]!.key && !s.refused === !b.said[i]!.refused)

const isMine = (said: Said) => said.by === null || said.by === whoSits()

const typeOf = (body: unknown) => (body instanceof Blob ? body.type || 'image/jpeg' : 'application/json')

// A network that swallows what is sent is none; a photo takes its time.
const patience = (body: unknown) => (body instanceof Blob ? 120_000 : 20_000)

// Refused for what it says it stays refused; anything else is the network's or the service's.
// A service in trouble is not asked every three seconds by every screen, and not before the time that it names. One
// that names an hour is looked for after some minutes all the same: it may be back.
const restOf = (error: unknown) => Math.min((error instanceof Problem && error.retryAfter) || 10, 300) * 1000

const mayBeTriedAgain = (error: unknown) =>
  isLost(error) || (error instanceof Problem && (error.status >= 500 || error.status === 429))

/** How long it waited, as the service is told: by the same clock both times, as it was understood when it was said. */
function moments(said: Said): Record<string, string> {
  const now = screenNow()
  if (Math.abs(now - said.at) < soon) return {}
  return {
    'Said-At': new Date(said.at + said.ahead).toISOString(),
    'Sent-At': new Date(now + said.ahead).toISOString(),
  }
}

let one: SaidQueue | undefined

/** The one queue of this page. */
export const theQueue = () => (one ??= new SaidQueue())

/** What waits on this screen; of one order where it is named. */
export function useSaid(order?: number) {
  const queue = theQueue()
  const state = useSyncExternalStore(queue.subscribe, queue.snapshot)
  const said = order === undefined ? state.said : state.said.filter((s) => s.order === order)
  const theirs = said.find((s) => !s.refused && !isMine(s))
  return {
    ...state,
    said,
    // What somebody else said here is sent in their name, once they are signed in again.
    waitsFor: theirs?.by ?? null,
    again: (key: string) => void queue.again(key),
    drop: (key: string) => void queue.drop(key),
  }
}

/** Says something of an order. */
export const sayOf =
  (order: number): Say =>
  (what) =>
    void theQueue().say(order, what)
