import { NativeSelect, TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { OptionLine, OrderView } from '../api/client'
import { optionsQuery, shopQuery, type OptionsWish } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { money, size } from '../words'

type Props = {
  order: OrderView
  /** Slots whose modules come out in any case. */
  giveUp: string[]
  /** For the machine as the order leaves it. */
  later?: boolean
  onTake: (option: OptionLine) => void
}

/** The upgrades worth offering; one press plans one. */
export function OptionsPanel({ order, giveUp, later = false, onTake }: Props) {
  const shop = useQuery(shopQuery).data
  const [what, setWhat] = useState(order.advice ? '' : 'size')
  const [target, setTarget] = useState('32 GB')
  const [budget, setBudget] = useState('')
  const [twice, setTwice] = useState(false)
  const wish: OptionsWish = {
    target: what === 'size' ? target : undefined,
    workload: what && what !== 'size' ? what : undefined,
    budget: Number(budget) > 0 ? Number(budget) : undefined,
    stages: twice ? 2 : 1,
    giveUp,
    later,
  }
  const [asked] = useDebouncedValue(wish, 250)
  const options = useQuery({ ...optionsQuery(order.number, asked), placeholderData: keepPreviousData })
  return (
    <div className="stack" style={{ gap: 10 }}>
      <div className="row options-ask">
        <NativeSelect
          aria-label="For what"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
          data={[
            ...(order.advice
              ? [{ value: '', label: `as the reading suggests: ${size(order.advice.target)}` }]
              : []),
            { value: 'size', label: 'so much memory' },
            ...(shop?.workloads ?? []).map((w) => ({ value: w.name, label: `${w.name}: ${size(w.size)}` })),
          ]}
        />
        {what === 'size' && (
          <TextInput aria-label="How much" value={target} onChange={(e) => setTarget(e.target.value)} />
        )}
        <TextInput
          aria-label="Budget for parts"
          placeholder={`budget, ${shop?.terms.currency ?? ''}`}
          inputMode="decimal"
          value={budget}
          onChange={(e) => setBudget(e.target.value)}
        />
        <label className="row small">
          <input type="checkbox" checked={twice} onChange={(e) => setTwice(e.target.checked)} /> in two visits
        </label>
      </div>
      {options.isPending && <p className="muted small">Weighing…</p>}
      {options.error ? (
        <Trouble error={options.error} />
      ) : (
        options.data && (
          <>
            {options.data.why && <p className="muted">{options.data.why}</p>}
            <ol className="grips tall">
              {options.data.options.map((o) => (
                <li key={`${o.option.words} ${o.total}`}>
                  <button className="grip" onClick={() => onTake(o)}>
                    <span className="grip-name">
                      <b className="mono">{size(o.option.capacity)}</b>
                      {o.option.capacityLater !== o.option.capacity &&
                        ` then ${size(o.option.capacityLater)}`}
                    </span>
                    <span className="mono grip-right">{money(o.total)}</span>
                    <span className="small grip-under">{o.option.words}</span>
                    <span className="muted small grip-under">
                      {Math.round(o.bandwidthShare * 100)} % of the bandwidth · {o.minutes} min ·{' '}
                      {o.onShelf ? 'on the shelf' : 'to order'}
                      {o.elsewhere !== null &&
                        ` · parts ${money(o.option.price)}, elsewhere ${money(o.elsewhere)}`}
                      {o.option.thrown > 0 && ` · modules worth ${money(o.option.thrown)} come out`}
                    </span>
                    {o.option.notes.map((n) => (
                      <span key={n.code + n.position} className="small grip-under">
                        <span className="verdict remark">!</span> {n.sentence}
                      </span>
                    ))}
                  </button>
                </li>
              ))}
            </ol>
            {options.data.leftOut.length > 0 && (
              <details>
                <summary className="small muted">{options.data.leftOut.length} left out</summary>
                <ul className="small muted">
                  {options.data.leftOut.map((l) => (
                    <li key={l.words}>
                      {l.words}: {size(l.capacity)}, {money(l.price)}; beaten by {l.by}
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </>
        )
      )}
    </div>
  )
}
