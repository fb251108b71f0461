import { TextInput } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { DriveOptionLine, OrderView } from '../api/client'
import { driveOptionsQuery } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { driveSize, money } from '../words'

type Props = {
  order: OrderView
  /** For the machine as the order leaves it. */
  later?: boolean
  /** What a press does, in a word beside each. */
  onTake: (option: DriveOptionLine) => void
}

/** More room or a faster link for the drives; one press takes one. */
export function DriveOptions({ order, later = false, onTake }: Props) {
  const [growth, setGrowth] = useState('')
  const [asked] = useDebouncedValue(growth.trim(), 250)
  const options = useQuery({
    ...driveOptionsQuery(order, asked, later),
    placeholderData: keepPreviousData,
  })
  return (
    <div className="stack" style={{ gap: 10 }}>
      <TextInput
        label="What is to come onto them"
        placeholder="half as much as they hold"
        value={growth}
        onChange={(e) => setGrowth(e.target.value)}
      />
      {options.isPending && <p className="muted small">Weighing…</p>}
      {options.error ? (
        <Trouble error={options.error} />
      ) : (
        options.data && (
          <>
            {options.data.rooms.map((r) => (
              <RoomBar key={r.bay ?? r.sentence} room={r} />
            ))}
            <ol className="grips tall">
              {options.data.options.map((o) => (
                <li key={o.option.words}>
                  <button className="grip" onClick={() => onTake(o)}>
                    <Option line={o} />
                  </button>
                </li>
              ))}
            </ol>
            <ul className="muted small plain">
              {options.data.closed.map((c) => (
                <li key={c}>{c}</li>
              ))}
              {options.data.leftOut > 0 && <li>{options.data.leftOut} more fit, and are beaten by these.</li>}
            </ul>
          </>
        )
      )}
    </div>
  )
}

function Option({ line }: { line: DriveOptionLine }) {
  const { option } = line
  return (
    <>
      <span className="grip-name">
        <b>{option.words}</b>
      </span>
      <span className="mono grip-right">{money(line.total)}</span>
      <span className="muted small grip-under">
        {[
          option.gain > 0 && `${driveSize(option.gain)} more`,
          option.systemFree !== null && `${driveSize(option.systemFree)} free beside the system`,
          option.systemRate !== null && `system at ${option.systemRate.toLocaleString('en')} MB/s`,
          `${line.minutes} min`,
          option.extraMinutes === 0 && 'shares the opening of the plan',
          line.elsewhere !== null && `drive ${money(option.price)}, elsewhere ${money(line.elsewhere)}`,
          line.onShelf ? option.buys && 'on the shelf' : 'to order',
        ]
          .filter(Boolean)
          .join(' · ')}
      </span>
      {option.dataWords && <span className="small grip-under">{option.dataWords}</span>}
      {option.notes.map((n) => (
        <span key={n.code + n.position} className="small grip-under">
          <span className="verdict remark">!</span> {n.sentence}
        </span>
      ))}
    </>
  )
}

function RoomBar({ room }: { room: { sentence: string; percent: number } }) {
  return (
    <div className="room">
      <span className="small">{room.sentence}</span>
      <div className="room-bar" aria-hidden="true">
        <div style={{ width: `${room.percent}%` }} />
      </div>
    </div>
  )
}
