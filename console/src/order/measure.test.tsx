import { MantineProvider } from '@mantine/core'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, expect, test, vi } from 'vitest'
import type { CheckResult, OrderView } from '../api/client'
import { DriveRows } from './Drives'
import { Quartiles } from './Quartiles'
import { SwapTest } from './SwapTest'

afterEach(cleanup)

// The provider asks for the person's colours; jsdom has no answer.
Object.assign(window, {
  matchMedia: () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }),
})

const shown = (node: ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MantineProvider>{node}</MantineProvider>
    </QueryClientProvider>,
  )

test('a strip of quartiles says in words what it draws, also beyond the others', () => {
  const of = { count: 6, least: 10, lower: 12, median: 15, upper: 18, most: 20 }
  const { container } = shown(<Quartiles of={of} at={25} unit="MB/s" model="FJ14" place={1} />)
  screen.getByLabelText('6 other FJ14: middle half 12 to 18 MB/s, median 15; place 1 of 7')
  const here = Number(container.querySelector('.here')!.getAttribute('cx'))
  const median = Number(container.querySelector('.median')!.getAttribute('x1'))
  expect(here).toBeGreaterThan(median)
  expect(here).toBeLessThanOrEqual(156)
})

const drive = (size: number) => ({
  size,
  form: null,
  key: null,
  link: null,
  height: null,
  sectorSize: null,
  maker: null,
  partNumber: null,
  serial: null,
})
const row = (
  bay: string,
  match: string,
  before: number | null,
  planned: number | null,
  after: number | null,
) => ({
  bay,
  match,
  use: null,
  before: before && drive(before),
  planned: planned && drive(planned),
  after: after && { bay, drive: drive(after) },
})

test('drives stand bay by bay, as sold and in binary, a mismatch marked', () => {
  const rows = [
    row('D1', 'same', 500_107_862_016, 1_000_204_886_016, 1_000_204_886_016),
    row('D2', 'missing', null, 500_107_862_016, null),
    row('D3', 'unknown', 500_107_862_016, 500_107_862_016, null),
    row('D4', 'unknown', null, null, null),
  ]
  shown(<DriveRows check={{ drives: rows } as unknown as CheckResult} />)
  expect(screen.getAllByText('1 TB · 931 GiB')).toHaveLength(2)
  screen.getByText('≠ not listed')
  screen.getByText('not read')
  expect(screen.queryByText('D4')).toBeNull()
})

const order = (swap: Partial<NonNullable<OrderView['swap']>['state']>) =>
  ({
    number: 119,
    swapResults: [],
    swap: {
      setup: { slots: ['A1', 'B1'] },
      trials: [],
      open: {},
      state: {
        suspects: [{ spoken: 'the module of B1', chance: 0.8 }],
        words: ['Move it.'],
        restarts: 1.4,
        defaults: false,
        handsIn: true,
        counts: {},
        next: [
          { slot: 'A1', module: 'B1' },
          { slot: 'B1', module: 'A1' },
        ],
        conclusion: null,
        ...swap,
      },
    },
  }) as unknown as OrderView

test('what an arrangement showed is told only once power is said to be off', async () => {
  const sent = vi.fn(() => Promise.resolve(new Response('{}')))
  vi.stubGlobal('fetch', sent)
  shown(<SwapTest order={order({})} />)
  screen.getByLabelText('A1 takes the module of B1, B1 takes the module of A1')
  const told = screen.getByRole('button', { name: 'All were seen' })
  expect(told).toHaveProperty('disabled', true)
  fireEvent.click(screen.getByLabelText('Power was off the board before hands went in'))
  fireEvent.click(screen.getByRole('button', { name: 'A1 seen' }))
  fireEvent.click(screen.getByRole('button', { name: 'Only B1 seen' }))
  await vi.waitFor(() => expect(sent).toHaveBeenCalledOnce())
  const [path, request] = sent.mock.calls[0] as unknown as [string, { body: string }]
  expect(path).toBe('/api/v1/orders/119/swap-test/tries')
  expect(JSON.parse(request.body)).toEqual({ isolated: true, shown: { started: true, slots: ['B1'] } })
  vi.unstubAllGlobals()
})

test('a conclusion leaves nothing to do but to end the test', () => {
  shown(
    <SwapTest
      order={order({
        next: null,
        conclusion: { suspects: [], sentence: 'It is the module of B1.', do: 'Set it aside.' },
      })}
    />,
  )
  screen.getByText('It is the module of B1.')
  expect(screen.getAllByRole('button').map((b) => b.textContent)).toEqual(['End the swap test'])
})
