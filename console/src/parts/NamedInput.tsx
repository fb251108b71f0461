import { TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useId, useRef, useState } from 'react'
import { shopQuery } from '../api/queries'
import './named.css'

// A name that is being begun where the hand stands.
const begun = /(?:^|[^\w@.])@([a-z0-9-]*)$/i

type Props = {
  label: string
  value: string
  onChange: (value: string) => void
  onSend?: () => void
  autoFocus?: boolean
}

/** A line in which people are named with @: whoever is meant is offered while the name is begun. */
export function NamedInput({ label, value, onChange, onSend, autoFocus }: Props) {
  const people = useQuery(shopQuery).data?.people ?? []
  const [at, setAt] = useState(0)
  const [first, setFirst] = useState(0)
  const [shut, setShut] = useState(false)
  const list = useId()
  const field = useRef<HTMLInputElement>(null)
  const typed = begun.exec(value.slice(0, at))?.[1]?.toLowerCase()
  const offered =
    typed === undefined || shut
      ? []
      : people.filter((p) => p.id.startsWith(typed) || p.name.toLowerCase().startsWith(typed))
  const chosen = offered[Math.min(first, offered.length - 1)]
  const name = (id: string) => {
    const before = value.slice(0, at - typed!.length)
    onChange(`${before}${id} ${value.slice(at).replace(/^ /, '')}`)
    const next = before.length + id.length + 1
    setAt(next)
    requestAnimationFrame(() => {
      field.current?.focus()
      field.current?.setSelectionRange(next, next)
    })
  }
  return (
    <div className="named">
      <TextInput
        ref={field}
        label={label}
        value={value}
        autoFocus={autoFocus}
        role="combobox"
        aria-expanded={offered.length > 0}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={chosen && `${list}-${chosen.id}`}
        autoComplete="off"
        onChange={(e) => {
          onChange(e.target.value)
          setAt(e.target.selectionStart ?? e.target.value.length)
          setFirst(0)
          setShut(false)
        }}
        onSelect={(e) => setAt(e.currentTarget.selectionStart ?? 0)}
        onBlur={() => setShut(true)}
        onKeyDown={(e) => {
          const step = e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0
          if (chosen && step !== 0) setFirst((first + step + offered.length) % offered.length)
          else if (chosen && (e.key === 'Enter' || e.key === 'Tab')) name(chosen.id)
          else if (chosen && e.key === 'Escape') setShut(true)
          else {
            if (e.key === 'Enter') onSend?.()
            return
          }
          e.preventDefault()
          e.stopPropagation()
        }}
      />
      <ul id={list} role="listbox" aria-label="People" hidden={offered.length === 0}>
        {offered.map((p) => (
          <li
            key={p.id}
            id={`${list}-${p.id}`}
            role="option"
            aria-selected={p === chosen}
            // The field keeps the hand.
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => name(p.id)}
          >
            {p.name} <span className="mono muted">@{p.id}</span>
          </li>
        ))}
      </ul>
    </div>
  )
}
