import { describe, expect, test } from 'vitest'
import type { OrderView, PartKind } from '../api/client'
import { changesOf, isMemory, put, wishesOf, wishesOfPlan, without, type Held } from './wishes'

const module = (gigabytes: number, partNumber: string | null = null) => ({
  size: gigabytes * 2 ** 30,
  partNumber,
})

const kind = (number: string, more: Partial<PartKind>) =>
  ({ number, name: number, module: null, drive: null, pieces: 1, price: 10, least: 0, ...more }) as PartKind

const order = {
  bays: [
    { id: 'D1', form: 'M.2 2280', boots: true },
    { id: 'D2', form: 'M.2 2242', boots: false },
  ],
  bayStates: [
    { bay: 'D1', before: null, isEmpty: false, dataPath: 'copy-first' },
    { bay: 'D2', before: null, isEmpty: true, dataPath: null },
  ],
} as unknown as OrderView

const stick: Held = { kind: 'part', part: kind('A', { module: module(16, 'A') as PartKind['module'] }) }
const disk: Held = { kind: 'part', part: kind('B', { drive: { size: 1e12 } as PartKind['drive'] }) }

describe('what the hand puts down', () => {
  test('goes to one place, and back onto its own it stays', () => {
    const once = put({}, order, { kind: 'present', slot: 'S2' }, 'S1')
    expect(once).toEqual({ S1: { what: 'from', from: 'S2' } })
    expect(put(once, order, { kind: 'present', slot: 'S2' }, 'S3')).toEqual({
      S3: { what: 'from', from: 'S2' },
    })
    expect(put(once, order, { kind: 'present', slot: 'S2' }, 'S2')).toEqual({})
  })

  test('a part is fitted, where another was wished too', () => {
    const wished = put({ S1: { what: 'reseat' } }, order, stick, 'S1')
    expect(changesOf(wished)).toEqual([
      { slot: 'S1', empty: false, reseat: false, inspect: false, fit: module(16, 'A') },
    ])
  })

  test('a drive brings its data the way that the order says of its bay', () => {
    expect(put({}, order, disk, 'D1').D1).toMatchObject({ what: 'drive', drive: { path: 'copy-first' } })
    expect(put({}, order, disk, 'D2').D2).toMatchObject({ what: 'drive', drive: { path: null } })
  })

  test('memory goes to slots and drives to bays', () => {
    expect([stick, disk, { kind: 'present', slot: 'S1' } as Held].map(isMemory)).toEqual([true, false, true])
  })
})

test('wishes survive the way to the service and back', () => {
  const wishes = put(put({ S3: { what: 'empty' } }, order, stick, 'S1'), order, disk, 'D1')
  expect(wishesOf(changesOf(wishes))).toEqual(wishes)
  expect(without(wishes, 'S1')).not.toHaveProperty('S1')
})

test('a kept plan opens as the wishes that made it', () => {
  const before = { known: true, module: module(8) }
  const kept = {
    ...order,
    plan: {
      plan: {
        slots: [
          { slot: 'S1', use: 'move', from: 'S2', module: module(8), before },
          { slot: 'S2', use: 'fit', from: null, module: module(16), before },
          { slot: 'S3', use: 'empty', from: null, module: null, before },
          { slot: 'S4', use: 'keep', from: null, module: module(8), before },
        ],
        bays: [
          { bay: 'D1', use: 'empty', from: null },
          { bay: 'D2', use: 'move', from: 'D1' },
        ],
      },
    },
  } as unknown as OrderView
  expect(wishesOfPlan(kept)).toEqual({
    S1: { what: 'from', from: 'S2' },
    S2: { what: 'fit', module: module(16) },
    S3: { what: 'empty' },
    D2: { what: 'from', from: 'D1' },
  })
})
