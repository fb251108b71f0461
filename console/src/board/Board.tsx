import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { OrderCard } from '../api/client'
import { boardQuery, searchQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Due } from '../parts/Due'
import { Trouble, Waiting } from '../parts/Trouble'
import { Countdown } from '../run/Countdown'
import { VerdictMark } from '../parts/VerdictMark'
import { When } from '../parts/When'
import { useTitle } from '../parts/title'
import { Miniature } from '../positions/Miniature'
import { stages, spoken } from '../words'
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
        <Columns cards={cards} nearlyFull={board.data.nearlyFullPercent} />
      )}
    </div>
  )
}

function Columns({ cards, nearlyFull }: { cards: OrderCard[]; nearlyFull: number }) {
  return (
    <div className="columns" tabIndex={0} role="region" aria-label="Orders by stage">
      {stages.map((stage) => {
        const here = cards.filter((c) => c.stage === stage)
        return (
          <section
            key={stage}
            className={here.length ? 'column' : 'column bare'}
            aria-labelledby={`stage-${stage}`}
          >
            <h2 id={`stage-${stage}`}>
              {spoken(stage)} <span className="muted num">{here.length || ''}</span>
            </h2>
            <ul>
              {here.map((card) => (
                <li key={card.number}>
                  <Card card={card} nearlyFull={nearlyFull} />
                </li>
              ))}
            </ul>
          </section>
        )
      })}
    </div>
  )
}

// The verdict tells that it is short, and the column that it is watched.
const toTell = (card: OrderCard) =>
  (card.holds ?? []).filter((h) => h.kind !== 'short' && h.kind !== 'watched')

function Card({ card, nearlyFull = Infinity }: { card: OrderCard; nearlyFull?: number }) {
  return (
    <Link to="/orders/$number" params={{ number: String(card.number) }} className="card">
      <span className="card-top">
        <b className="card-number mono">{card.number}</b>
        <span className="mono muted">{card.model}</span>
      </span>
      <span className="card-customer">{card.customer}</span>
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
