import { MantineProvider } from '@mantine/core'
import { act, cleanup, fireEvent, render, renderHook, screen } from '@testing-library/react'
import { useState, type ReactNode } from 'react'
import { afterEach, beforeAll, expect, test, vi } from 'vitest'
import type { RunStep } from '../api/client'
import { serverNow } from '../api/clock'
import { BoardDrawing } from '../positions/BoardDrawing'
import { duration } from '../words'
import { BayMap } from './BayMap'
import { clock, Countdown, HandTimer } from './Countdown'
import { Precaution } from './Precaution'
import { useScan } from './scan'
import { useStored } from './stored'
import { SuggestForm } from './SuggestForm'

beforeAll(() => {
  // Mantine asks for the scheme; the test's page has no screen.
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    addEventListener: () => {},
    removeEventListener: () => {},
    addListener: () => {},
    removeListener: () => {},
  }))
})
afterEach(() => {
  cleanup()
  localStorage.clear()
  vi.useRealTimers()
})

const show = (what: ReactNode) => render(<MantineProvider>{what}</MantineProvider>)

test.each([
  [5, '0:05'],
  [65, '1:05'],
  [3725, '1:02:05'],
])('%i seconds read %s', (seconds, text) => expect(clock(seconds)).toBe(text))

test.each([
  ['00:00:10', '10 s'],
  ['00:15:00', '15 min'],
  ['09:00:00', '9 h'],
])('a length of %s is said as %s', (text, said) => expect(duration(text)).toBe(said))

test('a countdown runs down and says when it is over', () => {
  vi.useFakeTimers({ now: Date.now() + 60_000 })
  show(<Countdown until={serverNow() + 61_000} label="cooling" />)
  expect(screen.getByRole('timer').textContent).toContain('1:01')
  act(() => vi.advanceTimersByTime(30_000))
  expect(screen.getByRole('timer').textContent).toContain('0:31')
  act(() => vi.advanceTimersByTime(40_000))
  expect(screen.getByRole('timer').textContent).toContain('over')
})

test('a clock for the hand begins when it is pressed', () => {
  show(<HandTimer seconds={10} />)
  fireEvent.click(screen.getByRole('button', { name: 'Count 0:10' }))
  expect(screen.getByRole('button').textContent).toMatch(/^0:(10|09)$/)
})

function Bays({ was }: { was: Record<string, string> }) {
  const [value, setValue] = useState<Record<string, string>>({})
  return <BayMap bays={['B1', 'B2']} value={value} was={was} onChange={setValue} />
}

test('a drive in the wrong bay is told where it belongs, and one of another machine that it does not', () => {
  show(<Bays was={{ B1: 'X1', B2: 'X2' }} />)
  fireEvent.change(screen.getByLabelText('Drive in B1'), { target: { value: 'x2' } })
  expect(screen.getByText('belongs in B2')).toBeTruthy()
  fireEvent.change(screen.getByLabelText('Drive in B1'), { target: { value: 'Y9' } })
  expect(screen.getByText('not from here')).toBeTruthy()
  fireEvent.click(screen.getAllByRole('button', { name: 'Same' })[0]!)
  expect(screen.getByText('✓ its own')).toBeTruthy()
})

test('while drives are written down an empty bay takes one press', () => {
  show(<Bays was={{}} />)
  fireEvent.click(screen.getAllByRole('button', { name: 'Empty' })[0]!)
  expect((screen.getByLabelText('Drive in B1') as HTMLInputElement).value).toBe('empty')
})

test('a wedge is heard, a hand is not, and the focused button keeps still', () => {
  const heard = vi.fn()
  const pressed = vi.fn()
  function Page() {
    useScan(heard)
    return <button onClick={pressed}>Done</button>
  }
  show(<Page />)
  const type = (keys: string[], gap: number) => {
    let at = performance.now()
    for (const key of keys) {
      const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true })
      Object.defineProperty(event, 'timeStamp', { value: (at += gap) })
      screen.getByRole('button').dispatchEvent(event)
      if (key === 'Enter' && !event.defaultPrevented) pressed()
    }
  }
  type([...'BA111-71', 'Enter'], 8)
  expect(heard).toHaveBeenCalledWith('BA111-71')
  expect(pressed).not.toHaveBeenCalled()
  type([...'slow', 'Enter'], 200)
  expect(heard).toHaveBeenCalledTimes(1)
  expect(pressed).toHaveBeenCalledTimes(1)
})

test('what is stored comes back, and leaves nothing behind once it is at its beginning', () => {
  const begin: string[] = []
  const first = renderHook(() => useStored('k', begin))
  act(() => first.result.current[1](['a', 'b']))
  first.unmount()
  const again = renderHook(() => useStored('k', begin))
  expect(again.result.current[0]).toEqual(['a', 'b'])
  act(() => again.result.current[1](begin))
  expect(localStorage.length).toBe(0)
})

const step = {
  id: 'open.base',
  removal: 'base',
  fasteners: [
    { group: 'base', driver: 'T5', length: 4, count: 8, captive: false, seal: false, at: [], hidden: null },
  ],
} as unknown as RunStep

test('a suggestion names what it is about', () => {
  const sent = vi.fn()
  show(<SuggestForm step={step} onSend={sent} />)
  fireEvent.change(screen.getByLabelText('What the guide should tell'), {
    target: { value: 'fastener-count' },
  })
  fireEvent.change(screen.getByLabelText('What the next technician should know'), { target: { value: '9' } })
  fireEvent.click(screen.getByRole('button', { name: 'To the lead' }))
  expect(sent).toHaveBeenCalledWith(
    expect.objectContaining({ kind: 'fastener-count', target: 'base', number: 9, text: null }),
  )
  fireEvent.change(screen.getByLabelText('What the guide should tell'), { target: { value: 'trap' } })
  fireEvent.click(screen.getByRole('button', { name: 'To the lead' }))
  expect(sent).toHaveBeenLastCalledWith(
    expect.objectContaining({ kind: 'trap', target: 'open.base', text: '9' }),
  )
})

test('every kind of warning has a picture of its own', () => {
  const kinds = [
    'power',
    'static',
    'heat',
    'edge',
    'cable',
    'latch',
    'notch',
    'seal',
    'data',
    'screw',
    'pad',
    'glass',
    'trap',
  ]
  const { container } = show(kinds.map((kind) => <Precaution key={kind} kind={kind} text="mind it" />))
  const drawn = [...container.querySelectorAll('path')].map((p) => p.getAttribute('d'))
  expect(new Set(drawn).size).toBe(kinds.length)
})

test('the board says in words which slot lies under which, and which is meant', () => {
  const at = { x: 0.5, y: 0.5 }
  const slot = { id: 'S1', below: 'S2', soldered: false, at, turn: 0 }
  show(
    <BoardDrawing
      slots={[slot, { ...slot, id: 'S2', below: null }] as never}
      bays={[{ id: 'D1', form: 'M.2 2280', boots: true, at }] as never}
      here="S2"
    />,
  )
  expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
    'slot S1 under S2; slot S2; bay D1, boots; now S2',
  )
})
