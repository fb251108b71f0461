import { useMutation, useQueryClient } from '@tanstack/react-query'
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react'
import { api, type HandsRequest, type Person, type SessionView, type TabletSeat } from '../api/client'
import { Trouble } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { useBadge } from '../run/scan'
import { Password } from './SignIn'
import { useIdle } from './idle'
import './people.css'

const AskHands = createContext<(() => void) | null>(null)

/** Somebody's hands at this tablet: by badge, or by name and PIN. */
function useHands(then: () => Promise<unknown>) {
  return useMutation({
    mutationFn: async (body: HandsRequest) => {
      await api.POST('/api/v1/session/hands', { body })
    },
    onSuccess: then,
  })
}

/** A bench tablet at which somebody stands: another badge changes the hands at once, and rest locks it. */
export function AtTablet(props: { seat: TabletSeat; person: Person; children: ReactNode }) {
  const client = useQueryClient()
  const [asking, setAsking] = useState(false)
  // The page stays as it is: what stands on it is asked for again in the name of whoever came.
  const hands = useHands(async () => {
    setAsking(false)
    await client.invalidateQueries()
  })
  useBadge((badge) => hands.mutate({ badge }))
  // Without a network nobody could come back in: then it only asks.
  const lock = useMutation({
    networkMode: 'always',
    mutationFn: async () => {
      await api.DELETE('/api/v1/session')
    },
    onSuccess: () => client.resetQueries(),
    onError: () => setAsking(true),
  })
  useIdle(props.seat.locksAfter, () => lock.mutate())
  return (
    <AskHands value={() => setAsking(true)}>
      <div hidden={asking}>{props.children}</div>
      {!asking && hands.error && (
        <div className="hands-trouble">
          <Trouble error={hands.error} />
        </div>
      )}
      {asking && (
        <Seat seat={props.seat} hands={hands}>
          <button className="button" onClick={() => setAsking(false)}>
            Stay {props.person.name}
          </button>
        </Seat>
      )}
    </AskHands>
  )
}

/** A bench tablet at which nobody stands. */
export function FreeTablet({ session, seat }: { session: SessionView; seat: TabletSeat }) {
  const client = useQueryClient()
  const [byPassword, setByPassword] = useState(false)
  const hands = useHands(() => client.resetQueries())
  useBadge((badge) => hands.mutate({ badge }))
  useTitle(seat.name)
  return (
    <Seat seat={seat} hands={hands}>
      {byPassword && !session.demo ? (
        <Password />
      ) : (
        !session.demo && (
          <button className="button" onClick={() => setByPassword(true)}>
            With a password
          </button>
        )
      )}
    </Seat>
  )
}

type Hands = ReturnType<typeof useHands>

function Seat({ seat, hands, children }: { seat: TabletSeat; hands: Hands; children: ReactNode }) {
  const [person, setPerson] = useState<Person | null>(null)
  return (
    <main className="sign-in seat stack">
      <header className="row">
        <img src="/mark.svg" alt="" />
        <h1>{person ? person.name : `Whose hands at ${seat.name}?`}</h1>
      </header>
      {person ? (
        <Pin
          key={person.id}
          busy={hands.isPending}
          enter={(pin) => hands.mutate({ person: person.id, pin })}
          error={hands.error}
          back={() => {
            hands.reset()
            setPerson(null)
          }}
        />
      ) : (
        <section className="sheet stack">
          <p>Scan your badge{seat.people.length > 0 && ', or press your name'}.</p>
          {seat.people.length > 0 && (
            <ul className="people-grid">
              {seat.people.map((p) => (
                <li key={p.id}>
                  <button className="button" onClick={() => setPerson(p)}>
                    <b>{p.name}</b>
                    <span className="muted small">{p.role}</span>
                  </button>
                </li>
              ))}
            </ul>
          )}
          {hands.error && <Trouble error={hands.error} />}
        </section>
      )}
      {children}
    </main>
  )
}

const digits = ['1', '2', '3', '4', '5', '6', '7', '8', '9']
const longest = 8

/** Digits under a thumb; a keyboard does as well. */
function Pin(props: { busy: boolean; error: Error | null; enter: (pin: string) => void; back: () => void }) {
  const [pin, setPin] = useState('')
  const add = (digit: string) => setPin((p) => (p + digit).slice(0, longest))
  const send = () => {
    props.enter(pin)
    setPin('')
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (/^\d$/.test(event.key)) add(event.key)
      else if (event.key === 'Backspace') setPin((p) => p.slice(0, -1))
      else if (event.key === 'Escape') props.back()
      else if (event.key === 'Enter' && pin.length >= 4) {
        event.preventDefault()
        send()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  })
  return (
    <section className="sheet stack">
      <output className="pin-dots" aria-label={`${pin.length} digits`}>
        {'●'.repeat(pin.length) || <span className="muted">PIN</span>}
      </output>
      <div className="pin-pad">
        {digits.map((d) => (
          <button key={d} className="button" onClick={() => add(d)}>
            {d}
          </button>
        ))}
        <button className="button" onClick={props.back}>
          Not me
        </button>
        <button className="button" onClick={() => add('0')}>
          0
        </button>
        <button className="button now" disabled={pin.length < 4 || props.busy} onClick={send}>
          Enter
        </button>
      </div>
      {props.error && <Trouble error={props.error} />}
    </section>
  )
}

/** Whose hands the page believes in; at a bench tablet with the button that changes them. */
export function HandsNow({ me }: { me: Person | undefined }) {
  const ask = useContext(AskHands)
  if (!me) return null
  return (
    <span className="hands">
      {me.name}
      {ask && (
        <button className="button" onClick={ask}>
          Change hands
        </button>
      )}
    </span>
  )
}

/** Whether this screen is a bench tablet, where hands change with a press. */
export const useIsTablet = () => useContext(AskHands) !== null
