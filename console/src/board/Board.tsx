import { AsOf } from '../away/AsOf'
import { useMediaQuery } from '@mantine/hooks'
import { useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { boardQuery, refreshCards } from '../api/board'
import type { BoardView, OrderCard } from '../api/client'
import { useMe } from '../api/me'
import { guidesQuery, searchQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Trouble, Waiting } from '../parts/Trouble'
import { useCalled } from '../people/Name'
import { useTitle } from '../parts/title'
import { Card, Together } from './Card'
import { byDue, columnsOf, owners, places, wanted, type Shown } from './parts'
import { Wall } from './Wall'
import './board.css'

// What is late comes with time too, and not only with changes.
const look = 60_000

/** All open orders; on a screen that only looks, to be read from afar. */
export function Board() {
  useTitle('Board')
  const client = useQueryClient()
  const board = useQuery(boardQuery)
  useEffect(() => {
    const timer = setInterval(() => void refreshCards(client, []), look)
    return () => clearInterval(timer)
  }, [client])
  const isWall = useMe()?.role === 'wall'
  // Whoever scans something else begins anew.
  const { find } = useSearch({ from: '/shell/' })
  if (!board.data) return <Waiting error={board.error} />
  return isWall ? (
    <Wall board={board.data} />
  ) : (
    <AtDesk key={find} board={board.data} at={board.dataUpdatedAt} />
  )
}

function AtDesk({ board, at }: { board: BoardView; at: number }) {
  const shown: Shown = useSearch({ from: '/shell/' })
  const [text, setText] = useState(shown.find ?? '')
  const { cards } = board
  const some = wanted(cards, shown)
  const isNarrow = useMediaQuery('(max-width: 600px)', false, { getInitialValueInEffect: false })
  return (
    <div className="board-page">
      <div className="row board-head">
        <h1>
          {some.length === cards.length ? `${cards.length} open` : `${some.length} of ${cards.length} open`}
        </h1>
        <AsOf at={at} />
        <input
          type="search"
          className="search"
          placeholder="Number, customer, serial, words"
          aria-label="Find orders, closed ones too"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <Filters cards={cards} shown={shown} parted={!isNarrow} />
        <Link to="/take-in" className="button">
          Take in a machine
        </Link>
      </div>
      {text.trim() ? (
        <Found text={text.trim()} jumps={text === shown.find} />
      ) : cards.length === 0 ? (
        <p className="sheet">The bench is clear. Take in a machine to begin.</p>
      ) : some.length === 0 ? (
        <p className="sheet">
          Nothing of that is open. <Link to="/">Show all</Link>
        </p>
      ) : isNarrow ? (
        <ul className="due-list">
          {byDue(some, board.late).map((card) => (
            <li key={card.number}>
              <Card
                card={card}
                nearlyFull={board.nearlyFullPercent}
                late={board.late}
                owed={board.partsOwed}
                tellsStage
              />
            </li>
          ))}
        </ul>
      ) : (
        <Columns board={board} cards={some} by={shown.by} />
      )}
    </div>
  )
}

/** How the board is parted, and what of it is shown; it stands in the address. */
function Filters({ cards, shown, parted }: { cards: OrderCard[]; shown: Shown; parted: boolean }) {
  const navigate = useNavigate()
  const me = useMe()
  const called = useCalled()
  const show = (more: Shown) => void navigate({ to: '/', search: { ...shown, ...more }, replace: true })
  const named = (words: string[], asked?: string) =>
    asked && !words.includes(asked) ? [...words, asked] : words
  return (
    <div className="row board-filters">
      {parted && (
        <label>
          <span className="muted small">by</span>{' '}
          <select
            value={shown.by ?? 'stage'}
            onChange={(e) =>
              show({ by: e.target.value === 'stage' ? undefined : (e.target.value as Shown['by']) })
            }
          >
            <option value="stage">stage</option>
            <option value="person">person</option>
            <option value="place">place</option>
          </select>
        </label>
      )}
      <label>
        <span className="muted small">in whose hands</span>{' '}
        <select value={shown.owner ?? ''} onChange={(e) => show({ owner: e.target.value || undefined })}>
          <option value="">anybody’s</option>
          {named(owners(cards), shown.owner).map((o) => (
            <option key={o} value={o}>
              {o === me?.id ? `${called(o)}: mine` : called(o)}
            </option>
          ))}
        </select>
      </label>
      <label>
        <span className="muted small">lies at</span>{' '}
        <select value={shown.place ?? ''} onChange={(e) => show({ place: e.target.value || undefined })}>
          <option value="">any place</option>
          {named(places(cards), shown.place).map((p) => (
            <option key={p}>{p}</option>
          ))}
        </select>
      </label>
    </div>
  )
}

function Columns(props: { board: BoardView; cards: OrderCard[]; by: Shown['by'] }) {
  const { board, cards, by } = props
  const called = useCalled()
  const together = (stage: string) => (by ? [] : board.batches.filter((b) => b.stage === stage))
  const isShown = (number: number) => cards.some((c) => c.number === number)
  return (
    <div className="columns" tabIndex={0} role="region" aria-label={`Orders by ${by ?? 'stage'}`}>
      {columnsOf(cards, by).map((column) => {
        // Machines of a batch stand together where they are parted by stage.
        const batches = together(column.id).filter((b) => b.orders.some(isShown))
        const here = by ? column.cards : column.cards.filter((c) => c.batch === null)
        const count = here.length + batches.length
        return (
          <section
            key={column.id}
            className={count ? 'column' : 'column bare'}
            aria-labelledby={`column-${column.id}`}
          >
            <h2 id={`column-${column.id}`}>
              {by === 'person' ? called(column.title) : column.title}{' '}
              <span className="muted num">{count || ''}</span>
            </h2>
            <ul>
              {batches.map((batch) => (
                <li key={batch.number}>
                  <Together batch={batch} cards={board.cards} />
                </li>
              ))}
              {here.map((card) => (
                <li key={card.number}>
                  <Card
                    card={card}
                    nearlyFull={board.nearlyFullPercent}
                    late={board.late}
                    owed={board.partsOwed}
                    tellsStage={by !== undefined}
                  />
                </li>
              ))}
            </ul>
          </section>
        )
      })}
    </div>
  )
}

const mostGuides = 4

/** Models whose guide has the words. */
function FoundGuides({ text }: { text: string }) {
  const found = useInfiniteQuery(guidesQuery(text))
  const guides = items(found)
  if (guides.length === 0) return null
  return (
    <p className="row">
      <span className="muted">Guides</span>
      {guides.slice(0, mostGuides).map((g) => (
        <Link key={g.code} to="/guides/$code" params={{ code: g.code }}>
          {g.maker} {g.name}
        </Link>
      ))}
      {guides.length > mostGuides && <Link to="/guides">all {guides.length}</Link>}
    </p>
  )
}

/** @param jumps Whether a code was scanned: where it means one order, that is opened. */
function Found({ text, jumps }: { text: string; jumps: boolean }) {
  const found = useInfiniteQuery(searchQuery(text))
  const navigate = useNavigate()
  const all = items(found)
  const only = jumps && found.data && all.length === 1 ? all[0]!.number : undefined
  useEffect(() => {
    if (only !== undefined)
      void navigate({ to: '/orders/$number', params: { number: String(only) }, replace: true })
  }, [navigate, only])
  if (!found.data) return found.error ? <Trouble error={found.error} /> : <p className="muted">Searching…</p>
  return (
    <div className="stack">
      {all.length === 0 && <p className="sheet">No order is found by “{text}”.</p>}
      <FoundGuides text={text} />
      <ul className="found">
        {items(found).map((card) => (
          <li key={card.number}>
            <Card card={card} tellsStage />
          </li>
        ))}
      </ul>
      <More list={found} />
    </div>
  )
}
