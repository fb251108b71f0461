import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Problem, type LaterStage, type OptionLine, type OrderView, type SlotChange } from '../api/client'
import { previewQuery } from '../api/queries'
import { changesOf, put, wishesOf, wishesOfPlan, without, type Held, type Wish, type Wishes } from './wishes'

/** What is wished so far, what is in the hand, and what the service says of it; nothing is told before it is set. */
export function usePlanning(order: OrderView) {
  const client = useQueryClient()
  const [wishes, setWishes] = useState<Wishes>(() => wishesOfPlan(order))
  const [later, setLater] = useState<LaterStage | null>(order.plan?.later ?? null)
  const [discount, setDiscount] = useState(order.plan?.discount ?? 0)
  const [cleans, setCleans] = useState(order.plan?.plan.cleans ?? false)
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
    setWishes(next)
    setLater(null)
    setRefusal(null)
    if (changesOf(next).length === 0) return
    try {
      await client.fetchQuery(previewQuery(order, changesOf(next), discount, cleans))
    } catch (error) {
      if (!(error instanceof Problem)) return
      if (next[position]?.what !== 'drive') setWishes(was)
      setRefusal({ position, text: error.message })
    }
  }
  // What is about memory comes new; drives stay as they are wished.
  const takeMemory = (changes: OptionLine['option']['changes']) => {
    const drives = Object.entries(wishes).filter(([id]) => order.bays.some((b) => b.id === id))
    setRefusal(null)
    setWishes({ ...Object.fromEntries(drives), ...wishesOf(changes) })
  }
  return {
    wishes,
    changes,
    later,
    discount,
    setDiscount,
    cleans,
    setCleans,
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
      takeMemory(option.option.changes)
      setLater(option.later)
    },
    /** Drives come new; memory stays as it is wished, so that both share one opening. */
    onTakeDrives(changes: SlotChange[]) {
      const memory = Object.entries(wishes).filter(([id]) => order.bays.every((b) => b.id !== id))
      setRefusal(null)
      setWishes({ ...Object.fromEntries(memory), ...wishesOf(changes) })
    },
    /** All of it, as an earlier visit left it. */
    onTakeAll(changes: SlotChange[]) {
      setRefusal(null)
      setLater(null)
      setWishes(wishesOf(changes))
    },
    takeMemory,
  }
}

export type Planning = ReturnType<typeof usePlanning>
