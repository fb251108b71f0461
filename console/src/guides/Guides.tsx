import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query'
import { useDebouncedValue } from '@mantine/hooks'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { ExchangeFile } from '../api/client'
import { guidesQuery } from '../api/queries'
import { items, More } from '../parts/More'
import { Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { counted } from '../words'
import { Drafts } from './Drafts'
import { Exchange } from './Exchange'
import { LeadTools } from './LeadTools'
import { Suggestions } from './Suggestions'
import './guides.css'

/** The models that the shop knows, found by anything that stands in their guides. */
export function Guides() {
  useTitle('Guides')
  const [text, setText] = useState('')
  const [exchange, setExchange] = useState<ExchangeFile | null>(null)
  const [asked] = useDebouncedValue(text, 150)
  const guides = useInfiniteQuery({ ...guidesQuery(asked), placeholderData: keepPreviousData })
  if (!guides.data) return <Waiting error={guides.error} />
  return (
    <div className="page stack">
      <div className="row guides-head">
        <h1>Guides</h1>
        <input
          type="search"
          className="search"
          placeholder="Search: a maker, a screw, a trap"
          aria-label="Search the guides"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <a href="/api/v1/library" className="button" download>
          All as a file
        </a>
        <LeadTools onExchange={setExchange} />
      </div>
      {exchange && <Exchange file={exchange} onClose={() => setExchange(null)} />}
      {items(guides).length === 0 ? (
        <p className="sheet">
          {asked
            ? `No guide holds “${asked}”.`
            : 'No guide yet. A lead publishes one with: revtal guide publish FILE'}
        </p>
      ) : (
        <ul className="guide-cards">
          {items(guides).map((g) => (
            <li key={g.code}>
              <Link to="/guides/$code" params={{ code: g.code }} className="sheet guide-card">
                <span>
                  <b className="mono">{g.code}</b> <span className="muted">revision {g.revision}</span>
                </span>
                <h2>
                  {g.maker} {g.name}
                </h2>
                <span>
                  {g.sketch && <b className="sketch-mark">sketch</b>} {g.kind},{' '}
                  {g.sketch && g.slots === 0 ? 'slots not known yet' : counted(g.slots, 'slot', 'slots')}
                  {g.variants.length > 0 && `, also as ${g.variants.map((v) => v.id).join(', ')}`}
                </span>
                {g.tellApart && <span className="muted small">{g.tellApart}</span>}
              </Link>
            </li>
          ))}
        </ul>
      )}
      <More list={guides} />
      <Drafts />
      <Suggestions />
    </div>
  )
}
