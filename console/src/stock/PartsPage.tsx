import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Fragment, useState } from 'react'
import type { PartLine } from '../api/client'
import { partsQuery, shopQuery } from '../api/queries'
import { counted, items, More } from '../parts/More'
import { Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { money } from '../words'
import { CsvTools } from './CsvTools'
import { KindForm } from './KindForm'
import { KindItems } from './KindItems'
import './stock.css'

/** The catalogue with the shelf: what lies there, what is set aside, what plans want, what to order. */
export function PartsPage() {
  useTitle('Parts')
  const [text, setText] = useState('')
  const [short, setShort] = useState(false)
  const [open, setOpen] = useState<string | null>(null)
  const [adding, setAdding] = useState(false)
  const [asked] = useDebouncedValue(text, 120)
  const parts = useInfiniteQuery({ ...partsQuery(asked.trim(), short), placeholderData: keepPreviousData })
  const toOrder = useInfiniteQuery(partsQuery(asked.trim(), true)).data?.pages[0]
  const currency = useQuery(shopQuery).data?.terms.currency ?? ''
  if (!parts.data) return <Waiting error={parts.error} />
  const lines = items(parts)
  return (
    <div className="page stack">
      <div className="row">
        <h1>Parts</h1>
        <input
          type="search"
          className="search"
          placeholder="Scan, or type a number or a word"
          aria-label="Search the parts"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <label className="row small">
          <input type="checkbox" checked={short} onChange={(e) => setShort(e.target.checked)} /> to order (
          {toOrder && counted(toOrder)})
        </label>
        <button className="button" aria-expanded={adding} onClick={() => setAdding(!adding)}>
          Add a kind
        </button>
        <CsvTools />
      </div>
      {adding && <KindForm onDone={() => setAdding(false)} />}
      <div className="sheet table-sheet">
        <table className="slots-table parts-table">
          <thead>
            <tr>
              <th scope="col">Number</th>
              <th scope="col">Name</th>
              <th scope="col" className="num">
                Price, {currency}
              </th>
              <th scope="col" className="num">
                Free
              </th>
              <th scope="col" className="num">
                Reserved
              </th>
              <th scope="col" className="num">
                Wanted
              </th>
              <th scope="col" className="num">
                Least
              </th>
              <th scope="col">Order</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((l) => (
              <Fragment key={l.kind.number}>
                <Row line={l} isOpen={open === l.kind.number} onOpen={setOpen} />
                {open === l.kind.number && (
                  <tr>
                    <td colSpan={8}>
                      <KindItems line={l} />
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </table>
        {lines.length === 0 && (
          <p className="muted">
            {asked
              ? `Nothing is called “${asked}”.`
              : short
                ? 'Nothing to order.'
                : 'The catalogue is empty.'}
          </p>
        )}
        <More list={parts} />
      </div>
    </div>
  )
}

function Row(props: { line: PartLine; isOpen: boolean; onOpen: (number: string | null) => void }) {
  const { line: l, isOpen, onOpen } = props
  return (
    <tr>
      <td>
        <button
          className="link mono"
          aria-expanded={isOpen}
          onClick={() => onOpen(isOpen ? null : l.kind.number)}
        >
          {l.kind.number}
        </button>
      </td>
      <td>{l.kind.name}</td>
      <td className="num">{money(l.kind.price)}</td>
      <td className="num">{l.free}</td>
      <td className="num">{l.reserved || ''}</td>
      <td className="num">{l.wanted || ''}</td>
      <td className="num">{l.kind.least || ''}</td>
      <td>{(l.short ?? 0) > 0 && <span className="verdict remark">! {l.short}</span>}</td>
    </tr>
  )
}
