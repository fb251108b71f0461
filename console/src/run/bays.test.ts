import { expect, test } from 'vitest'
import cases from '../../../tests/data/shared/bays.json'
import { isOwn, ownBay } from './bays'

// The same cases as the service's own rule answers.
test.each(cases)('“$told” in $bay where $was was', ({ was, bay, told, own, right }) => {
  const wrote = Object.fromEntries(Object.entries(was).filter(([, text]) => text !== undefined))
  expect(ownBay(wrote, told) ?? null).toBe(own)
  expect(isOwn(wrote, bay, told)).toBe(right)
})
