import { QueryObserver } from '@tanstack/react-query'
import { expect, test } from 'vitest'
import { FreshClient } from './fresh'

/** A shelf whose answers are written when they are asked for, and arrive when they are let through. */
function shelf() {
  let now = 'empty'
  const doors: (() => void)[] = []
  return {
    put: (what: string) => (now = what),
    asked: () => doors.length,
    let: (nth: number) => doors[nth]!(),
    answer: () => {
      const written = now
      return new Promise<string>((done) => doors.push(() => done(written)))
    },
  }
}

function watched(answer: () => Promise<string>) {
  const client = new FreshClient()
  const observer = new QueryObserver(client, { queryKey: ['shelf'], queryFn: answer, retry: false })
  observer.subscribe(() => {})
  return { client, shown: () => observer.getCurrentResult().data }
}

test('a change while the first answer is on its way is asked for again', async () => {
  const parts = shelf()
  const { client, shown } = watched(parts.answer)
  parts.put('one module')
  const invalidated = client.invalidateQueries({ queryKey: ['shelf'] })
  parts.let(0)
  await expect.poll(parts.asked).toBe(2)
  parts.let(1)
  await invalidated
  expect(shown()).toBe('one module')
})

test('a burst of changes neither holds the first answer up nor asks more than once again', async () => {
  const parts = shelf()
  const { client, shown } = watched(parts.answer)
  for (let i = 0; i < 20; i++) void client.invalidateQueries({ queryKey: ['shelf'] })
  expect(parts.asked()).toBe(1)
  parts.let(0)
  await expect.poll(shown).toBe('empty')
  await expect.poll(parts.asked).toBe(2)
})

test('what nobody looks at is only marked', async () => {
  const client = new FreshClient()
  client.setQueryData(['shelf'], 'empty')
  await client.invalidateQueries({ queryKey: ['shelf'] })
  expect(client.getQueryState(['shelf'])!.isInvalidated).toBe(true)
})
