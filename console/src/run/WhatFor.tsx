import type { OrderView } from '../api/client'
import { BoardDrawing } from '../positions/BoardDrawing'
import { PositionDrawing } from '../positions/PositionDrawing'

/** What the machine is opened for: beside a step at which nothing of it is in sight yet. */
export function WhatFor({ order }: { order: OrderView }) {
  return (
    <figure className="what-for">
      <figcaption className="muted small">what it is opened for</figcaption>
      {changesMemory(order) && <PositionDrawing positions={order.positions} compact />}
      <BoardDrawing slots={order.positions.map((p) => p.slot)} bays={order.bays} />
    </figure>
  )
}

const changesMemory = (order: OrderView) =>
  order.run!.steps.some((s) => order.positions.some((p) => p.slot.id === s.step.position))

/** Whether there is anything to show. */
export const hasWhatFor = (order: OrderView) =>
  changesMemory(order) || [...order.positions.map((p) => p.slot), ...order.bays].some((p) => p.at)
