import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import type { BatchCard, Late, OrderCard, PartsOwed } from '../api/client'
import { shopQuery } from '../api/queries'
import { Due } from '../parts/Due'
import { VerdictMark } from '../parts/VerdictMark'
import { When } from '../parts/When'
import { Miniature } from '../positions/Miniature'
import { Countdown } from '../run/Countdown'
import { counted, dayTime, minutesSaid, spoken, stagesSaid } from '../words'
import { Name } from '../people/Name'

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
export function Together({ batch, cards }: { batch: BatchCard; cards: OrderCard[] }) {
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

/** By when it was promised, and whether that will hardly be kept; of what is ready nobody need know. */
export function Promise({ card, late }: { card: OrderCard; late: Late[] }) {
  const zone = useQuery(shopQuery).data?.zone
  if (!card.promisedAt || card.stage === 'ready') return null
  const broken = late.find((l) => l.number === card.number)
  if (!broken)
    return (
      <span className="small">
        promised <b>{dayTime(card.promisedAt, zone)}</b>
      </span>
    )
  return (
    <b className="off small">
      {broken.isLate ? 'late by ' : 'will be late by '}
      {minutesSaid(broken.minutes)}
    </b>
  )
}

/** What it waits for, in words; where that is not the bench, since when too. */
export function Waits({ card, owed }: { card: OrderCard; owed: PartsOwed[] }) {
  const { waiting } = card
  const lacks = owed.find((o) => o.number === card.number)
  if (lacks)
    return (
      <span className="card-waits">
        <b>waits for parts</b>: {lacks.parts.join(', ')}
      </span>
    )
  if (!waiting || waiting.kind === 'watch') return <span className="card-waits">{card.waitsFor}</span>
  if (waiting.kind === 'parked')
    return (
      <span className="card-waits">
        {card.waitsFor}
        <span className="muted">
          , since <When at={waiting.since} />
        </span>
      </span>
    )
  return (
    <span className="card-waits">
      <b>
        waits for {waiting.on}, since <When at={waiting.since} />
      </b>
      {waiting.kind !== 'customer' || card.stage === 'parked' ? `: ${card.waitsFor}` : ''}
    </span>
  )
}

export function Card(props: {
  card: OrderCard
  nearlyFull?: number
  late?: Late[]
  owed?: PartsOwed[]
  /** Where no column tells it. */
  tellsStage?: boolean
}) {
  const { card, nearlyFull = Infinity, late = [], owed = [] } = props
  return (
    <Link to="/orders/$number" params={{ number: String(card.number) }} className="card">
      <CardTop of={card} />
      {props.tellsStage && <span className="small">{spoken(card.stage)}</span>}
      {card.found && <span className="small card-found">{card.found.told}</span>}
      <span className="card-slots">
        <Miniature slots={card.slots} />
        <VerdictMark verdict={card.verdict} />
      </span>
      <Waits card={card} owed={owed} />
      <Promise card={card} late={late} />
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
      {(card.owner || card.place) && (
        <span className="small">
          {card.owner && (
            <b>
              <Name id={card.owner} />
            </b>
          )}
          {card.owner && card.place && ', '}
          {card.place}
        </span>
      )}
      <span className="muted small">
        <Name id={card.changedBy} />, <When at={card.changedAt} />
      </span>
    </Link>
  )
}
