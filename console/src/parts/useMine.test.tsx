import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, render, renderHook, screen } from '@testing-library/react'
import { afterEach, expect, test } from 'vitest'
import type { JournalLine } from '../api/client'
import { Meanwhile, useMine } from './useMine'

const line: JournalLine = {
  sequence: 5,
  at: '2026-03-02T09:10:00Z',
  by: 'tobi',
  kind: 'place-told/1',
  text: 'Lies at Bench 2',
  topic: 'words',
  said: null,
  begun: null,
}

afterEach(cleanup)

test('follows what others say while nothing is typed', () => {
  const { result, rerender } = renderHook(({ said }) => useMine(said), { initialProps: { said: 'Bench 1' } })
  rerender({ said: 'Bench 2' })
  expect(result.current.value).toBe('Bench 2')
  expect(result.current.theirs).toBeNull()
})

test('keeps what was typed and shows both, until one is chosen', () => {
  const { result, rerender } = renderHook(({ said }) => useMine(said), { initialProps: { said: 'Bench 1' } })
  act(() => result.current.set('shelf'))
  rerender({ said: 'Bench 2' })
  expect(result.current.value).toBe('shelf')
  expect(result.current.theirs).toEqual({ value: 'Bench 2' })
  expect(result.current.base).toBe('Bench 1')
  act(() => result.current.stay())
  expect(result.current).toMatchObject({ value: 'shelf', base: 'Bench 2', theirs: null })
  rerender({ said: 'Bench 3' })
  act(() => result.current.take())
  expect(result.current).toMatchObject({ value: 'Bench 3', theirs: null })
})

test('two who say the same have nothing to settle, in whichever order it is written', () => {
  const { result, rerender } = renderHook(({ said }) => useMine(said), {
    initialProps: { said: {} as Record<string, number> },
  })
  act(() => result.current.set({ A1: 1, B1: 2 }))
  rerender({ said: { B1: 2, A1: 1 } })
  expect(result.current.theirs).toBeNull()
  expect(result.current.base).toEqual({ A1: 1, B1: 2 })
})

test('what was said meanwhile stands in words, with both ways out', () => {
  function Form({ said }: { said: string }) {
    const mine = useMine(said)
    return (
      <>
        <button onClick={() => mine.set('shelf')}>type</button>
        <Meanwhile mine={mine} said={said === 'Bench 2' ? line : undefined}>
          It lies at {mine.theirs?.value}.
        </Meanwhile>
        <output>{mine.value}</output>
      </>
    )
  }
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } })
  client.setQueryData(['shop'], { called: { tobi: 'Tobi' } })
  const { rerender } = render(<Form said="Bench 1" />, {
    wrapper: ({ children }) => <QueryClientProvider client={client}>{children}</QueryClientProvider>,
  })
  act(() => screen.getByText('type').click())
  expect(screen.queryByRole('status', { name: '' })?.textContent).not.toContain('It lies')
  rerender(<Form said="Bench 2" />)
  expect(screen.getByText('It lies at Bench 2.')).toBeTruthy()
  expect(screen.getByText(/^Tobi/).textContent).toMatch(/^Tobi, /)
  act(() => screen.getByText('Take that').click())
  expect(screen.queryByText('Go on with mine')).toBeNull()
  expect(screen.getByText('Bench 2').tagName).toBe('OUTPUT')
})
