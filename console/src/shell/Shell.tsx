import { useMantineColorScheme } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, Outlet, useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { rememberedPerson, rememberPerson } from '../api/client'
import { useLiveChanges } from '../api/live'
import { shopQuery } from '../api/queries'
import { scannedOrder, useScan } from '../run/scan'

/** The top of every page but the run: where one is, who one is, and whether the service answers. */
export function Shell() {
  const connected = useLiveChanges()
  const shop = useQuery(shopQuery)
  const navigate = useNavigate()
  useScan((text) => {
    const number = scannedOrder(text)
    if (number) void navigate({ to: '/orders/$number', params: { number } })
  })
  return (
    <>
      <header className="top">
        <div className="top-in">
          <Link to="/" className="brand">
            <img src="/mark.svg" alt="" />
            Revtal
          </Link>
          <nav aria-label="Pages">
            <Link to="/" activeOptions={{ exact: true }}>
              Board
            </Link>
            <Link to="/take-in">Take in</Link>
            <Link to="/parts">Parts</Link>
            <Link to="/guides">Guides</Link>
            <Link to="/dummies">Dummies</Link>
          </nav>
          <div className="right">
            {connected ? (
              <span className="muted small">{shop.data?.name}</span>
            ) : (
              <span className="offline" role="status">
                Not connected
              </span>
            )}
            <WhoAmI />
            <SchemeSwitch />
          </div>
        </div>
      </header>
      <main>
        <Outlet />
      </main>
    </>
  )
}

function WhoAmI() {
  const people = useQuery(shopQuery).data?.people ?? []
  const [who, setWho] = useState(rememberedPerson)
  return (
    <label className="who">
      <span className="muted small">I am</span>
      <select
        value={people.some((p) => p.id === who) ? who : ''}
        onChange={(e) => {
          rememberPerson(e.target.value)
          setWho(e.target.value)
        }}
      >
        <option value="" disabled>
          choose…
        </option>
        {people.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name} ({p.role})
          </option>
        ))}
      </select>
    </label>
  )
}

function SchemeSwitch() {
  const { colorScheme, setColorScheme } = useMantineColorScheme()
  const next = colorScheme === 'dark' ? 'light' : 'dark'
  return (
    <button
      className="icon"
      onClick={() => setColorScheme(next)}
      aria-label={`Switch to ${next}`}
      title={`Switch to ${next}`}
    >
      ◐
    </button>
  )
}
