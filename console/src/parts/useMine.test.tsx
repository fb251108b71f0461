import { act, cleanup, render, renderHook, screen } from '@testing-library/react'
import { afterEach, expect, test } from 'vitest'
import { Meanwhile, useMine } from './useMine'

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
        <Meanwhile mine={mine}>It lies at {mine.theirs?.value}.</Meanwhile>
        <output>{mine.value}</output>
      </>
    )
  }
  const { rerender } = render(<Form said="Bench 1" />)
  act(() => screen.getByText('type').click())
  expect(screen.queryByRole('status', { name: '' })?.textContent).not.toContain('It lies')
  rerender(<Form said="Bench 2" />)
  expect(screen.getByText('It lies at Bench 2.')).toBeTruthy()
  act(() => screen.getByText('Take that').click())
  expect(screen.queryByText('Go on with mine')).toBeNull()
  expect(screen.getByText('Bench 2').tagName).toBe('OUTPUT')
})
