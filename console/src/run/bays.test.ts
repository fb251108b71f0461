import { expect, test } from 'vitest'
import cases from '../../../tests/data/shared/bays.json'
import { isOwn, ownBay, placed } from './bays'

// The same cases as the service's own rule answers.
test.each(cases)('“$told” in $bay where $was was', ({ was, bay, told, own, right }) => {
  const wrote = Object.fromEntries(Object.entries(was).filter(([, text]) => text !== undefined))
  expect(ownBay(wrote, told) ?? null).toBe(own)
  expect(isOwn(wrote, bay, told)).toBe(right)
})

test('a scanned drive goes to its own bay, or to the first that is free', () => {
  expect(placed('x2', ['B1', 'B2'], {}, { B1: 'X1', B2: 'X2' })).toEqual({ B2: 'x2' })
  expect(placed('n', ['B1', 'B2'], { B1: 'X1' }, {})).toEqual({ B1: 'X1', B2: 'n' })
  expect(placed('n', ['B1'], { B1: 'X1' }, {})).toEqual({ B1: 'X1' })
})
