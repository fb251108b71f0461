import { expect, test } from 'vitest'
import sizes from '../../tests/data/shared/sizes.json'
import { driveSize, ago, size, spoken, verdictWord } from './words'

test.each([
  [20_972_941_312, '19.5 GB'],
  [17_179_869_184, '16 GB'],
  [536_870_912, '512 MB'],
  [0, '0 GB'],
  [null, 'unknown'],
])('%s bytes are spoken as %s', (bytes, spoken) => expect(size(bytes)).toBe(spoken))

test.each([
  ['2026-03-02T08:00:00Z', 'now'],
  ['2026-03-02T07:59:00Z', '1 min ago'],
  ['2026-03-02T06:30:00Z', '1 h ago'],
  ['2026-03-02T09:00:00Z', 'in 1 h'],
  ['2026-03-02T12:00:00Z', 'in 4 h'],
  [
    '2026-03-01T08:00:00Z',
    new Date('2026-03-01T08:00:00Z').toLocaleDateString(undefined, { day: 'numeric', month: 'short' }),
  ],
])('%s is told as %s', (at, told) =>
  expect(ago(at, undefined, Date.parse('2026-03-02T08:00:30Z'))).toBe(told),
)

test('stages and verdicts are said as words', () => {
  expect(spoken('on-bench')).toBe('on bench')
  expect(verdictWord('not-seen')).toBe('✕ not seen')
})

test.each(sizes.memory)('memory of $bytes bytes is said as $saidAs', ({ bytes, saidAs }) =>
  expect(size(bytes)).toBe(saidAs),
)

test.each(sizes.drives)('a drive of $bytes bytes is said as $saidAs', ({ bytes, saidAs, withBinary }) =>
  expect([driveSize(bytes), driveSize(bytes, true)]).toEqual([saidAs, withBinary]),
)
