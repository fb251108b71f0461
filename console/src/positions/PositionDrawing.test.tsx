import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, expect, test } from 'vitest'
import type { PositionView } from '../api/client'
import { PositionDrawing } from './PositionDrawing'

afterEach(cleanup)

const GB = 2 ** 30
const slot = (id: string) => ({
  id,
  channel: 'A',
  reportsAs: null,
  below: null,
  reach: null,
  max: null,
  soldered: false,
  angle: null,
  latch: null,
  press: null,
  notch: null,
  seated: null,
  label: null,
  at: null,
  turn: 0,
})
const content = (id: string, gigabytes: number) => ({
  slot: id,
  known: true,
  module: gigabytes ? { size: gigabytes * GB } : null,
  runningSpeed: null,
  spoken: gigabytes ? `${gigabytes} GB` : 'empty',
})

function position(
  id: string,
  before: number,
  planned: number,
  after: number,
  match: PositionView['match'],
): PositionView {
  const was = content(id, before)
  return {
    slot: slot(id),
    before: was,
    planned: {
      slot: id,
      use: before === planned ? 'keep' : 'fit',
      before: was,
      module: planned ? { size: planned * GB } : null,
      from: null,
      pulls: false,
      fits: false,
      stays: before === planned,
    },
    after: content(id, after),
    match,
  }
}

test('the drawing says in words what it shows', () => {
  render(
    <PositionDrawing positions={[position('S1', 8, 8, 8, 'same'), position('S2', 0, 16, 0, 'missing')]} />,
  )
  expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
    'S1: before 8 GB, planned 8 GB, after 8 GB; S2: before empty, planned 16 GB, after empty, not as planned',
  )
})

test('what stayed is joined through the three rows, and a mismatch is marked', () => {
  const { container } = render(
    <PositionDrawing positions={[position('S1', 8, 8, 8, 'same'), position('S2', 0, 16, 0, 'missing')]} />,
  )
  expect(container.querySelectorAll('line.stays')).toHaveLength(2)
  expect(container.querySelectorAll('.drawing-off')).toHaveLength(1)
  expect(screen.getByText('not seen')).toBeTruthy()
})

test('before, planned and after have their own fills', () => {
  const { container } = render(<PositionDrawing positions={[position('S1', 8, 16, 16, 'same')]} />)
  expect([...container.querySelectorAll('path.module')].map((p) => p.getAttribute('class'))).toEqual([
    'module hollow',
    'module hatched',
    'module solid',
  ])
})

test('more than four slots go into rows of four', () => {
  const many = Array.from({ length: 8 }, (_, i) => position(`A${i}`, 8, 8, 8, 'same'))
  const { container } = render(<PositionDrawing positions={many} compact />)
  expect(container.querySelectorAll('.drawing > svg')).toHaveLength(2)
})
