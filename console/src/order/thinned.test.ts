import { expect, test } from 'vitest'
import { thinned } from './thinned'

const row = (at: number, memory: number | null) => ({ at, memory })

test('what a screen can show is left as it is', () => {
  const rows = [row(0, 1), row(5, 2), row(10, 1)]
  expect(thinned(rows, ['memory'], 3)).toBe(rows)
})

test('an hour keeps its span, its peak, its dip and the order in which they came', () => {
  const rows = Array.from({ length: 720 }, (_, i) => row(i * 5, i === 100 ? 9 : i === 500 ? 0.5 : 4))
  const few = thinned(rows, ['memory'], 240)
  expect(few.length).toBeLessThanOrEqual(240)
  expect([few[0]!.at, few.at(-1)!.at]).toEqual([0, 719 * 5])
  const values = few.map((r) => r.memory!)
  expect([Math.max(...values), Math.min(...values)]).toEqual([9, 0.5])
  expect(values.indexOf(9)).toBeLessThan(values.indexOf(0.5))
  // Nothing is drawn where it was not: the peak lies within its own half minute.
  const peak = few[values.indexOf(9)]!.at
  expect(Math.abs(peak - 500)).toBeLessThanOrEqual(30)
  expect(few.every((r, i) => i === 0 || r.at > few[i - 1]!.at)).toBe(true)
})

test('a stretch that was not told stays a gap', () => {
  const rows = Array.from({ length: 600 }, (_, i) => row(i, i >= 200 && i < 400 ? null : 1))
  const few = thinned(rows, ['memory'], 100)
  expect(few.filter((r) => r.at >= 212 && r.at < 388).every((r) => r.memory === null)).toBe(true)
  expect(few.filter((r) => r.at < 188 || r.at >= 412).every((r) => r.memory === 1)).toBe(true)
})
