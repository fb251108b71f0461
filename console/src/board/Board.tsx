import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { BatchCard, OrderCard } from '../api/client'
import { boardQuery, searchQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Due } from '../parts/Due'
import { Trouble, Waiting } from '../parts/Trouble'
import { Countdown } from '../run/Countdown'
import { VerdictMark } from '../parts/VerdictMark'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import { Miniature } from '../positions/Miniature'
import { counted, stages, stagesSaid, spoken } from '../words'
import './board.css'

/** All open orders by stage; typing in the search field finds closed ones too. */
export function Board() {
  useTitle('Board')
  const board = useQuery(boardQuery)
  const [text, setText] = useState('')
  if (!board.data) return <Waiting error={board.error} />
  const { cards } = board.data
  return (
    <div className="board-page">
      <div className="row board-head">
        <h1>{cards.length} open</h1>
        <input
          type="search"
          className="search"
          placeholder="Number, customer, serial, model or later visit"
          aria-label="Find orders, closed ones too"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <Link to="/take-in" className="button">
          Take in a machine
        </Link>
      </div>
      {text.trim() ? (
        <Found text={text.trim()} />
      ) : cards.length === 0 ? (
        <p className="sheet">The bench is clear. Take in a machine to begin.</p>
      ) : (
        <Columns cards={cards} batches={board.data.batches} nearlyFull={board.data.nearlyFullPercent} />
      )}
    </div>
  )
}

function Columns(props: { cards: OrderCard[]; batches: BatchCard[]; nearlyFull: number }) {
  return (
    <div className="columns" tabIndex={0} role="region" aria-label="Orders by stage">
      {stages.map((stage) => {
        const here = props.cards.filter((c) => c.stage === stage && c.batch === null)
        const together = props.batches.filter((b) => b.stage === stage)
        const count = here.length + together.length
        return (
          <section
            key={stage}
            className={count ? 'column' : 'column bare'}
            aria-labelledby={`stage-${stage}`}
          >
            <h2 id={`stage-${stage}`}>
              {spoken(stage)} <span className="muted num">{count || ''}</span>
            </h2>
            <ul>
              {together.map((batch) => (
                <li key={batch.number}>
                  <Together batch={batch} cards={props.cards} />
                </li>
              ))}
              {here.map((card) => (
                <li key={card.number}>
                  <Card card={card} nearlyFull={props.nearlyFull} />
                </li>
              ))}
            </ul>
          </section>
        )
      })}
    </div>
  )
}

function CardTop({ of }: { of: { number: number; model: string; customer: string } }) {
  return (
    <>
      <span className="card-top">
        <b className="card-number mono">{of.number}</b>
        <span className="mono muted">{of.model}</span>
      </span>
      <span className="card-customer">{of.customer}</span>
    </>
  )
}

// A column has room for so many.
const mostDrawn = 24

/** Machines that are worked on together: one card, which opens into them. */
function Together({ batch, cards }: { batch: BatchCard; cards: OrderCard[] }) {
  return (
    <Link to="/batches/$batch" params={{ batch: String(batch.number) }} className="card together">
      <CardTop of={batch} />
      <span className="card-machines" aria-hidden="true">
        {cards
          .filter((c) => c.batch === batch.number)
          .slice(0, mostDrawn)
          .map((c) => (
            <Miniature key={c.number} slots={c.slots} />
          ))}
      </span>
      <span className="card-slots">
        <b>{counted(batch.orders.length, 'machine', 'machines')}</b>
      </span>
      {batch.verdict && (
        <span className="card-slots">
          <VerdictMark verdict={batch.verdict} />
          <span className="small">
            {batch.checked} of {batch.orders.length} checked
          </span>
        </span>
      )}
      <span className="card-waits">{stagesSaid(batch.stages)}</span>
      {batch.holds > 0 && <b className="tag">{batch.holds} held</b>}
    </Link>
  )
}

// The verdict tells that it is short, and the column that it is watched.
const toTell = (card: OrderCard) =>
  (card.holds ?? []).filter((h) => h.kind !== 'short' && h.kind !== 'watched')

function Card({ card, nearlyFull = Infinity }: { card: OrderCard; nearlyFull?: number }) {
  return (
    <Link to="/orders/$number" params={{ number: String(card.number) }} className="card">
      <CardTop of={card} />
      <span className="card-slots">
        <Miniature slots={card.slots} />
        <VerdictMark verdict={card.verdict} />
      </span>
      <span className="card-waits">{card.waitsFor}</span>
      {toTell(card).length > 0 && (
        <span className="card-holds">
          {toTell(card).map((h) =>
            h.until ? (
              <Due key={h.word} at={h.until} label={h.word} />
            ) : (
              <b key={h.word} className="tag">
                {h.word}
              </b>
            ),
          )}
        </span>
      )}
      {card.fullest && card.fullest.percent >= nearlyFull && (
        <span className="small">
          <span className="verdict remark">!</span> {card.fullest.bay ?? 'a drive'} {card.fullest.percent} %
          full
        </span>
      )}
      {card.parkedUntil && <Due at={card.parkedUntil} label="until" />}
      {card.dueOn && card.dueOn <= new Date().toLocaleDateString('sv') && (
        <b className="off">due {card.dueOn}</b>
      )}
      {card.coolsUntil && <Countdown until={card.coolsUntil} label="cooling" />}
      <span className="muted small">
        {card.changedBy}, <When at={card.changedAt} />
      </span>
    </Link>
  )
}

function Found({ text }: { text: string }) {
  const found = useInfiniteQuery(searchQuery(text))
  if (!found.data) return found.error ? <Trouble error={found.error} /> : <p className="muted">Searching…</p>
  if (items(found).length === 0) return <p className="sheet">Nothing found for “{text}”.</p>
  return (
    <>
      <ul className="found">
        {items(found).map((card) => (
          <li key={card.number} className="found-line">
            <Card card={card} />
            <span className="muted">{spoken(card.stage)}</span>
          </li>
        ))}
      </ul>
      <More list={found} />
    </>
  )
}
