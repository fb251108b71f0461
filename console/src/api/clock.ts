/** A clock that never goes back: set back, it goes on from where it was; set forward, it follows. */
export class SteadyClock {
  private last: number
  private stamp: number

  /** @param begin Not earlier than this: what was seen before a reload. */
  constructor(
    private readonly wall: () => number = Date.now,
    private readonly passing: () => number = () => performance.now(),
    begin = 0,
  ) {
    this.last = Math.max(wall(), begin)
    this.stamp = passing()
  }

  /** Milliseconds since 1970. */
  now(): number {
    const passing = this.passing()
    this.last = Math.max(this.wall(), this.last + Math.max(0, passing - this.stamp))
    this.stamp = passing
    return this.last
  }
}

const name = 'revtal.clock'

type Kept = { ahead: number; seen: number }

function load(): Kept {
  try {
    const kept = JSON.parse(localStorage.getItem(name) ?? '{}') as Partial<Kept>
    return { ahead: Number(kept.ahead) || 0, seen: Number(kept.seen) || 0 }
  } catch {
    return { ahead: 0, seen: 0 }
  }
}

const kept = load()
const own = new SteadyClock(Date.now, () => performance.now(), kept.seen)

// How far the service's clock is ahead of this screen's; its answers carry the time, in whole seconds.
let { ahead } = kept

/** What this screen's own clock shows, which never goes back. */
export const screenNow = () => own.now()

/** How far the service's clock was found ahead, in milliseconds. */
export const clockAhead = () => ahead

/** Milliseconds since 1970 by the service's clock. */
export const serverNow = () => own.now() + ahead

/** @param date The Date header of an answer; null where it had none. */
export function heedClock(date: string | null) {
  const told = Date.parse(date ?? '') + 500
  if (Number.isNaN(told) || Math.abs(told - serverNow()) <= 1000) return
  ahead = told - own.now()
  localStorage.setItem(name, JSON.stringify({ ahead, seen: own.now() }))
}
