import { useMantineColorScheme } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link, Outlet, useNavigate } from '@tanstack/react-router'
import { sessionQuery } from '../api/me'
import { useDemoSeat } from '../people/SignIn'
import { NoticeCount } from '../people/Notices'
import { HandsNow, useIsTablet } from '../people/Tablet'
import { useLiveChanges } from '../api/live'
import { KeptHere } from '../away/KeptHere'
import { takeNewer, useNewer } from '../away/update'
import '../away/away.css'
import { StoreLink } from '../store/StoreLink'
import { shopQuery } from '../api/queries'
import { scannedOrder, useScan } from '../run/scan'
import { Keys } from './Keys'
import './keys.css'

const atBoard = () => location.pathname === '/'

/** The top of every page but the run: where one is, who one is, and whether the service answers. */
export function Shell() {
  const connected = useLiveChanges()
  const newer = useNewer()
  const shop = useQuery(shopQuery)
  const navigate = useNavigate()
  const session = useQuery(sessionQuery).data
  const isWall = session?.person?.role === 'wall'
  const isDemo = !!session?.demo
  const search = () => {
    if (!atBoard()) void navigate({ to: '/' })
    // The board may be on its way.
    setTimeout(() => document.querySelector<HTMLInputElement>('.board-head .search')?.focus(), 50)
  }
  useScan((text) => {
    const number = scannedOrder(text)
    if (number) void navigate({ to: '/orders/$number', params: { number } })
    // A serial, or whatever else stands on a label; pages that want codes of their own hear them too.
    else if (!text.startsWith('revtal:') && atBoard()) void navigate({ to: '/', search: { find: text } })
  })
  return (
    <>
      {newer && (
        <aside className="newer" aria-label="Newer version">
          A newer Revtal is there.
          <button className="button" onClick={takeNewer}>
            Load it
          </button>
        </aside>
      )}
      {isDemo && (
        <aside className="demo-banner" aria-label="Demo">
          This is a demo: nobody here has a password, and all of it is made up.
        </aside>
      )}
      <header className="top">
        <div className="top-in">
          <Link to="/" className="brand">
            <img src="/mark.svg" alt="" />
            Revtal
          </Link>
          {!isWall && (
            <nav aria-label="Pages">
              <Link to="/" activeOptions={{ exact: true }}>
                Board
              </Link>
              <Link to="/take-in">Take in</Link>
              <Link to="/parts">Parts</Link>
              <Link to="/guides">Guides</Link>
              <Link to="/dummies">Dummies</Link>
            </nav>
          )}
          <div className="right">
            {connected ? (
              <span className="muted small">{shop.data?.name}</span>
            ) : (
              <span className="offline" role="status">
                Not connected
              </span>
            )}
            <KeptHere />
            <WhoAmI />
            <Keys search={search} looks={isWall} />
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

/** Who sits here; in the demo, whose people have no passwords, another one with a press. */
function WhoAmI() {
  const session = useQuery(sessionQuery).data
  const sit = useDemoSeat()
  const isTablet = useIsTablet()
  if (!session?.person) return null
  const { person, demo } = session
  return (
    <span className="who">
      {isTablet ? (
        <HandsNow me={person} />
      ) : demo ? (
        <label>
          <span className="muted small">I am</span>{' '}
          <select aria-label="I am" value={person.id} onChange={(e) => sit.mutate(e.target.value)}>
            {demo.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name} ({p.role})
              </option>
            ))}
          </select>
        </label>
      ) : (
        <span className="muted small">
          {person.name}, {person.role}
        </span>
      )}
      {person.role !== 'wall' && <NoticeCount />}
      {person.isLead && <StoreLink />}
      <Link to="/people" className="small">
        People
      </Link>
    </span>
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
