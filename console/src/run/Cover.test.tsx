import { cleanup, fireEvent, render } from '@testing-library/react'
import { afterEach, expect, test, vi } from 'vitest'
import type { FastenerGroup } from '../api/client'
import { Cover } from './Cover'

afterEach(cleanup)

const groups: Omit<FastenerGroup, 'byHand' | 'exactFit' | 'order'>[] = [
  {
    group: 'hatch',
    driver: 'PH0',
    length: 5,
    count: 1,
    captive: true,
    seal: false,
    at: [{ x: 0.5, y: 0.5 }],
    hidden: null,
    holes: [],
  },
  {
    group: 'base',
    driver: 'PH0',
    length: 8,
    count: 2,
    captive: false,
    seal: false,
    at: [
      { x: 0.1, y: 0.1 },
      { x: 0.9, y: 0.1 },
    ],
    hidden: null,
    holes: ['base/1', 'base/2'],
  },
]

test('groups differ by shape, and a tap counts a loose fastener but not a captive one', () => {
  const tapped = vi.fn()
  const { container } = render(
    <Cover
      fasteners={groups}
      shapes={['circle', 'square']}
      counted={new Set(['base/2'])}
      onToggle={tapped}
    />,
  )
  const screws = [...container.querySelectorAll('.cover > svg g.screw')]
  expect(new Set(screws.map((s) => s.querySelector('path')!.getAttribute('d'))).size).toBe(2)
  expect(screws.map((s) => s.classList.contains('in'))).toEqual([false, false, true])
  screws.forEach((s) => fireEvent.click(s))
  expect(tapped.mock.calls.map(([key]) => key)).toEqual(['base/1', 'base/2'])
})
