import { expect, test } from 'vitest'
import { SteadyClock } from './clock'

test('set back it goes on at its own pace, set forward it follows', () => {
  let [wall, passing] = [1_000, 0]
  const clock = new SteadyClock(
    () => wall,
    () => passing,
  )
  wall = 2_000
  passing = 1_000
  expect(clock.now()).toBe(2_000)
  wall = 500
  passing = 1_400
  expect(clock.now()).toBe(2_400)
  wall = 9_000
  expect(clock.now()).toBe(9_000)
})

test('after a reload it begins where it was', () =>
  expect(
    new SteadyClock(
      () => 10,
      () => 0,
      50,
    ).now(),
  ).toBe(50))
