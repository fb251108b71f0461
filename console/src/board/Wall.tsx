import { useCalled } from '../people/Name'
import { useEffect, useState } from 'react'
import type { BoardView, OrderCard } from '../api/client'
import { VerdictMark } from '../parts/VerdictMark'
import { counted, spoken } from '../words'
import { Promise, Waits } from './Card'
import { byDue } from './parts'

const turnAfter = 12_000
const tall = 222
const wide = 376

/** How many cards a screen of this size shows. */
const room = () =>
  Math.max(1, Math.floor((innerWidth - 20) / wide)) * Math.max(1, Math.floor((innerHeight - 132) / tall))

/** The board on a wall: read from four metres, touched by nobody; what does not fit comes page after page. */
export function Wall({ board }: { board: BoardView }) {
  const [fits, setFits] = useState(room)
  const [turn, setTurn] = useState(0)
  useEffect(() => {
    const measure = () => setFits(room())
    const timer = setInterval(() => setTurn((t) => t + 1), turnAfter)
    addEventListener('resize', measure)
    return () => {
      clearInterval(timer)
      removeEventListener('resize', measure)
    }
  }, [])
  // What somebody watches or parked until later is not the bench's to do today.
  const cards = byDue(board.cards, board.late).filter((c) => c.stage !== 'watching')
  const pages = Math.max(1, Math.ceil(cards.length / fits))
  const page = turn % pages
  return (
    <div className="wall">
      <h1>
        {counted(board.cards.length, 'order', 'orders')} open
        {board.late.length > 0 && <b className="off"> · {board.late.length} late or will be</b>}
        {pages > 1 && (
          <span className="muted">
            {' '}
            · page {page + 1} of {pages}
          </span>
        )}
      </h1>
      {cards.length === 0 && <p>The bench is clear.</p>}
      <ul>
        {cards.slice(page * fits, (page + 1) * fits).map((card) => (
          <WallCard key={card.number} card={card} board={board} />
        ))}
      </ul>
    </div>
  )
}

function WallCard({ card, board }: { card: OrderCard; board: BoardView }) {
  const called = useCalled()
  return (
    <li className={board.late.some((l) => l.number === card.number) ? 'card late' : 'card'}>
      <span className="card-top">
        <b className="mono wall-number">{card.number}</b>
        <b>{[card.owner && called(card.owner), card.place].filter(Boolean).join(', ')}</b>
      </span>
      <span className="wall-line">
        {spoken(card.stage)} <VerdictMark verdict={card.verdict} />
      </span>
      <Waits card={card} owed={board.partsOwed} />
      <Promise card={card} late={board.late} />
    </li>
  )
}
