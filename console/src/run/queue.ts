import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, useSyncExternalStore } from 'react'
import { refreshCards } from '../api/board'
import {
  isLost,
  isSignedOut,
  Problem,
  send,
  whoSits,
  type OrderChange,
  type RefusalAnswer,
} from '../api/client'

/** Something said on the tablet that the service has not answered yet. */
export type Said = {
  key: string
  path: string
  body: unknown
  step: string
  /** What it is called in a list. */
  title: string
  /** Whether it confirms its step. */
  confirms: boolean
  /** Whose hands it was; it is sent when they are signed in here. */
  by?: string | null
  /** What the tablet keeps of it, by name: of no use once the service has taken it. */
  keeps?: string[]
  /** Why the service did not take it. */
  refused?: { code: string; detail: string; answers: RefusalAnswer[] }
}

export type Say = (what: OrderChange & Pick<Said, 'step' | 'title' | 'confirms' | 'keeps'>) => void

const name = (order: number) => `revtal.said.${order}`

export function load(order: number): Said[] {
  try {
    return JSON.parse(localStorage.getItem(name(order)) ?? '[]') as Said[]
  } catch {
    return []
  }
}

const save = (order: number, said: Said[]) =>
  said.length > 0
    ? localStorage.setItem(name(order), JSON.stringify(said))
    : localStorage.removeItem(name(order))

/**
 * What is said is kept on the tablet first and then sent, in order and once each: the key is made when the
 * finger lifts, so a lost answer records nothing twice. Without a network it waits; what the service refuses
 * stays in the list with its reason.
 */
export class SaidQueue {
  private list: Said[]
  private sending = false
  private readonly listeners = new Set<() => void>()

  /** @param taken Called after each one that was taken, before it leaves the list. */
  constructor(
    private readonly order: number,
    private readonly taken: () => Promise<unknown>,
  ) {
    this.list = load(order)
  }

  /** Whether the last try found nobody. */
  private lost = false

  readonly snapshot = () => this.list

  readonly isLost = () => this.lost

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  readonly say: Say = (what) => {
    // Said anew, what was refused is answered.
    const others = this.list.filter(
      (s) => !(s.refused && s.step === what.step && s.confirms === what.confirms),
    )
    this.put([
      ...others,
      { ...what, path: `orders/${this.order}/${what.path}`, key: crypto.randomUUID(), by: whoSits() },
    ])
    void this.flush()
  }

  readonly again = (key: string) => {
    this.put(this.list.map((s) => (s.key === key ? { ...s, refused: undefined } : s)))
    void this.flush()
  }

  readonly drop = (key: string) => this.put(this.list.filter((s) => s.key !== key))

  async flush() {
    if (this.sending) return
    this.sending = true
    try {
      for (;;) {
        const next = this.list.find((s) => !s.refused)
        if (!next || (next.by && next.by !== whoSits())) break
        try {
          await send('POST', next.path, next.body, next.key)
        } catch (error) {
          if (isSignedOut(error)) break
          if (isLost(error)) {
            this.lost = true
            this.put(this.list)
            break
          }
          this.lost = false
          const refused =
            error instanceof Problem
              ? { code: error.code, detail: error.message, answers: error.answers }
              : { code: '', detail: String(error), answers: [] }
          this.put(this.list.map((s) => (s.key === next.key ? { ...s, refused } : s)))
          continue
        }
        this.lost = false
        // The page is fetched before the mark of the waiting one goes, so that no step flickers back.
        await this.taken().catch(() => {})
        this.drop(next.key)
        for (const kept of next.keeps ?? []) localStorage.removeItem(kept)
      }
    } finally {
      this.sending = false
    }
  }

  private put(list: Said[]) {
    this.list = list
    save(this.order, list)
    for (const listener of this.listeners) listener()
  }
}

/** The queue of one order, sent on whenever the service can be reached. */
export function useSaid(order: number, connected: boolean) {
  const client = useQueryClient()
  const [queue] = useState(
    () =>
      new SaidQueue(order, async () => {
        await client.refetchQueries({ queryKey: ['order', order] })
        await refreshCards(client, [order])
      }),
  )
  const said = useSyncExternalStore(queue.subscribe, queue.snapshot)
  const lost = useSyncExternalStore(queue.subscribe, queue.isLost)
  useEffect(() => {
    const go = () => void queue.flush()
    if (connected) go()
    // A connection may come back without anybody telling.
    const timer = setInterval(go, 3000)
    window.addEventListener('online', go)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', go)
    }
  }, [queue, connected])
  const next = said.find((s) => !s.refused)
  // What somebody else said here is sent in their name, once they are signed in again.
  const waitsFor = next?.by && next.by !== whoSits() ? next.by : null
  return { said, lost, waitsFor, say: queue.say, again: queue.again, drop: queue.drop }
}
