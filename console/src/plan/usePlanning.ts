import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Problem, type LaterStage, type OptionLine, type OrderView, type SlotChange } from '../api/client'
import { previewQuery } from '../api/queries'
import { useMine } from '../parts/useMine'
import { changesOf, put, wishesOf, wishesOfPlan, without, type Held, type Wish, type Wishes } from './wishes'

/** What a plan says, as it is wished here. */
export const planOf = (order: OrderView) => ({
  wishes: wishesOfPlan(order),
  later: order.plan?.later ?? null,
  discount: order.plan?.discount ?? 0,
  cleans: order.plan?.plan.cleans ?? false,
})

/** What is wished so far, what is in the hand, and what the service says of it; nothing is told before it is set. */
export function usePlanning(order: OrderView) {
  const client = useQueryClient()
  const mine = useMine(planOf(order))
  const { wishes, later, discount, cleans } = mine.value
  const change = (some: Partial<typeof mine.value>) => mine.set({ ...mine.value, ...some })
  const [held, setHeld] = useState<Held | null>(null)
  const [refusal, setRefusal] = useState<{ position: string; text: string } | null>(null)
  const changes = changesOf(wishes)
  const preview = useQuery({
    ...previewQuery(order, changes, discount, cleans),
    enabled: changes.length > 0,
    placeholderData: keepPreviousData,
  })
  useEffect(() => {
    const drop = (event: KeyboardEvent) => event.key === 'Escape' && setHeld(null)
    addEventListener('keydown', drop)
    return () => removeEventListener('keydown', drop)
  }, [])

  // Shown at once; what the service refuses goes back, with the reason where it was put.
  const attempt = async (next: Wishes, position: string) => {
    const was = wishes
    change({ wishes: next, later: null })
    setRefusal(null)
    if (changesOf(next).length === 0) return
    try {
      await client.fetchQuery(previewQuery(order, changesOf(next), discount, cleans))
    } catch (error) {
      if (!(error instanceof Problem)) return
      if (next[position]?.what !== 'drive') change({ wishes: was, later: null })
      setRefusal({ position, text: error.message })
    }
  }
  // What is about memory comes new; drives stay as they are wished.
  const takeMemory = (changes: SlotChange[], later: LaterStage | null = mine.value.later) => {
    const drives = Object.entries(wishes).filter(([id]) => order.bays.some((b) => b.id === id))
    setRefusal(null)
    change({ wishes: { ...Object.fromEntries(drives), ...wishesOf(changes) }, later })
  }
  return {
    wishes,
    changes,
    later,
    discount,
    setDiscount: (discount: number) => change({ discount }),
    cleans,
    setCleans: (cleans: boolean) => change({ cleans }),
    mine,
    held,
    setHeld,
    refusal,
    preview: changes.length > 0 ? preview.data : undefined,
    isRefused: preview.isError,
    onPut(position: string) {
      if (!held) return
      setHeld(null)
      void attempt(put(wishes, order, held, position), position)
    },
    onWish(position: string, wish: Wish) {
      const next = wish.what === 'keep' ? without(wishes, position) : { ...wishes, [position]: wish }
      void attempt(next, position)
    },
    onTake(option: OptionLine) {
      takeMemory(option.option.changes, option.later)
    },
    /** Drives come new; memory stays as it is wished, so that both share one opening. */
    onTakeDrives(changes: SlotChange[]) {
      const memory = Object.entries(wishes).filter(([id]) => order.bays.every((b) => b.id !== id))
      setRefusal(null)
      change({ wishes: { ...Object.fromEntries(memory), ...wishesOf(changes) } })
    },
    /** All of it, as an earlier visit left it. */
    onTakeAll(changes: SlotChange[]) {
      setRefusal(null)
      change({ wishes: wishesOf(changes), later: null })
    },
    takeMemory,
  }
}

export type Planning = ReturnType<typeof usePlanning>
