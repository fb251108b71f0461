import { NativeSelect, Textarea, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { OrderView } from '../api/client'
import { useMe } from '../api/me'
import { boardQuery, cardsQuery } from '../api/board'
import { shopQuery, useRested, useTold } from '../api/queries'
import { places } from '../board/parts'
import { Name, useCalled } from '../people/Name'
import { Trouble } from '../parts/Trouble'
import { lastOf, Meanwhile, useMine } from '../parts/useMine'
import { When } from '../parts/When'
import { useLeft } from '../run/Countdown'
import { useScan } from '../run/scan'
import { dayTime } from '../words'
import { may } from './acts'
import { submit } from './DecisionForms'

/** A moment as the browser's field for it has it, in the browser's own zone. */
const typed = (at: string | null) => {
  if (!at) return ''
  const moment = new Date(at)
  return new Date(moment.getTime() - moment.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}

const placeCode = /^revtal:place:/i

/** Whose it is, where it lies, for when it was promised and what it waits for; and how each is said anew. */
export function Shared({ order }: { order: OrderView }) {
  const me = useMe()
  const change = useTold(order.number)
  const name = useCalled()
  const takes = me && (me.role === 'technician' || me.role === 'lead') && order.owner !== me.id
  useScan((text) => {
    if (placeCode.test(text) && may(order, 'tell-place'))
      change.send({ path: 'place', body: { place: text } })
  })
  return (
    <section className="shared stack" aria-label="Whose it is and where it lies">
      <p className="row shared-facts">
        <span>
          {order.owner ? (
            <>
              in <b>{name(order.owner)}’s</b> hands
            </>
          ) : (
            'in nobody’s hands'
          )}
        </span>
        <span>
          {order.place ? (
            <>
              lies at <b>{order.place}</b>
            </>
          ) : (
            <span className="muted">where it lies is not said</span>
          )}
        </span>
        {order.promisedAt && <PromisedFor order={order} at={order.promisedAt} />}
        {order.waiting && (
          <span>
            waits for <b>{order.waiting.on}</b>, since <When at={order.waiting.since} />
          </span>
        )}
        {order.stage === 'agreed' && <Owed number={order.number} />}
        {takes && may(order, 'name-owner') && (
          <button
            className="button"
            disabled={change.isPending}
            onClick={() => change.send({ path: 'owner', body: { owner: me.id, word: null } })}
          >
            Take it in hand
          </button>
        )}
      </p>
      {order.handOver && <HandedOver order={order} said={name(order.handOver.by)} />}
      <Trouble error={change.error} />
      {may(order, 'name-owner') && (
        <details>
          <summary className="muted small">Hand it over, move it, promise it</summary>
          <div className="shared-forms">
            <HandOver order={order} />
            <Place order={order} />
            <PromiseIt order={order} />
          </div>
        </details>
      )}
    </section>
  )
}

/** Which parts it cannot begin without. */
function Owed({ number }: { number: number }) {
  const owed = useQuery(cardsQuery([number])).data?.partsOwed.find((o) => o.number === number)
  if (!owed) return null
  return (
    <span>
      waits for <b>{owed.parts.join(', ')}</b>: too few are free on the shelf
    </span>
  )
}

function PromisedFor({ order, at }: { order: OrderView; at: string }) {
  const zone = useQuery(shopQuery).data?.zone
  const past = useLeft(at) <= 0
  return past && order.stage !== 'ready' ? (
    <b className="off">promised for {dayTime(at, zone)}: late</b>
  ) : (
    <span>
      promised for <b>{dayTime(at, zone)}</b>
    </span>
  )
}

/** What whoever goes on must have read. */
function HandedOver({ order, said }: { order: OrderView; said: string }) {
  const change = useTold(order.number)
  return (
    <div className="hold" role="note">
      <b>read first</b>
      <div>
        <p>{order.handOver!.word}</p>
        <p className="small">
          {said}, <When at={order.handOver!.at} />
        </p>
        <Trouble error={change.error} />
      </div>
      {may(order, 'read-hand-over') && (
        <div className="hold-ways">
          <button
            className="button"
            disabled={change.isPending}
            onClick={() => change.send({ path: 'hand-over/read', body: null })}
          >
            I have read it
          </button>
        </div>
      )}
    </div>
  )
}

function HandOver({ order }: { order: OrderView }) {
  const people = useQuery(shopQuery).data?.people ?? []
  const hands = people.filter((p) => p.role === 'technician' || p.role === 'lead')
  // A press says nothing before somebody else is chosen.
  const mine = useMine(order.owner ?? '')
  const { value: owner, set: setOwner } = mine
  const [word, setWord] = useState('')
  const change = useRested(order, (now) => (now.owner ?? '') === mine.base)
  return (
    <form
      className="form"
      onSubmit={submit(() =>
        change.send({ path: 'owner', body: { owner: owner || null, word: word || null } }, () => {
          setWord('')
          mine.recorded(owner)
        }),
      )}
    >
      <NativeSelect
        label="In whose hands"
        value={owner}
        onChange={(e) => setOwner(e.target.value)}
        data={[
          { value: '', label: 'nobody’s: it is free' },
          ...hands.map((p) => ({ value: p.id, label: p.name })),
        ]}
      />
      <Textarea
        label="What they must read before they go on"
        autosize
        value={word}
        onChange={(e) => setWord(e.target.value)}
      />
      <Meanwhile mine={mine} said={lastOf(order, 'owner-named')}>
        It is{' '}
        {order.owner ? (
          <>
            in <Name id={order.owner} />
            ’s hands
          </>
        ) : (
          'in nobody’s hands'
        )}
        .
      </Meanwhile>
      <Trouble error={mine.theirs ? null : change.error} />
      <div>
        <button
          className="button"
          disabled={change.isPending || mine.theirs !== null || owner === (order.owner ?? '')}
        >
          {owner ? 'Hand it over' : 'Release it'}
        </button>
      </div>
    </form>
  )
}

function Place({ order }: { order: OrderView }) {
  // Places that the board has told already: for a list to choose from it is not fetched.
  const known = useQuery({ ...boardQuery, enabled: false }).data?.cards ?? []
  const mine = useMine(order.place ?? '')
  const { value: place, set: setPlace } = mine
  const change = useRested(order, (now) => (now.place ?? '') === mine.base)
  return (
    <form
      className="form"
      onSubmit={submit(() =>
        change.send({ path: 'place', body: { place: place || null } }, () => mine.recorded(place)),
      )}
    >
      <TextInput
        label="Where it lies, written or scanned"
        list="places"
        value={place}
        onChange={(e) => setPlace(e.target.value)}
      />
      <datalist id="places">
        {places(known.filter((c) => c.place)).map((p) => (
          <option key={p} value={p} />
        ))}
      </datalist>
      <Meanwhile mine={mine} said={lastOf(order, 'place-told')}>
        {order.place ? `It lies at ${order.place}` : 'Nobody knows where it lies'}.
      </Meanwhile>
      <Trouble error={mine.theirs ? null : change.error} />
      <div>
        <button
          className="button"
          disabled={change.isPending || mine.theirs !== null || place === (order.place ?? '')}
        >
          It lies there
        </button>
      </div>
    </form>
  )
}

function PromiseIt({ order }: { order: OrderView }) {
  const zone = useQuery(shopQuery).data?.zone
  const mine = useMine(typed(order.promisedAt))
  const { value: at, set: setAt } = mine
  const change = useRested(order, (now) => typed(now.promisedAt) === mine.base)
  return (
    <form
      className="form"
      onSubmit={submit(() =>
        change.send({ path: 'promise', body: { at: new Date(at).toISOString() } }, () => mine.recorded(at)),
      )}
    >
      <TextInput
        label="Promised for"
        type="datetime-local"
        value={at}
        onChange={(e) => setAt(e.target.value)}
      />
      <Meanwhile mine={mine} said={lastOf(order, 'promised')}>
        {order.promisedAt ? `It is promised for ${dayTime(order.promisedAt, zone)}` : 'Nothing is promised'}.
      </Meanwhile>
      <Trouble error={mine.theirs ? null : change.error} />
      <div className="row">
        <button
          className="button"
          disabled={change.isPending || mine.theirs !== null || !at || at === typed(order.promisedAt)}
        >
          Promise it
        </button>
        {order.promisedAt && (
          <button
            type="button"
            className="button"
            disabled={change.isPending || mine.theirs !== null}
            onClick={() => change.send({ path: 'promise', body: { at: null } })}
          >
            Nothing is promised
          </button>
        )}
      </div>
    </form>
  )
}
