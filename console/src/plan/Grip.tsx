import type { Held } from './wishes'

type Props = {
  held: Held
  isHeld: boolean
  onHold: (held: Held | null) => void
  name: string
  under: (string | number | null | undefined | false)[]
  right?: string
  disabled?: boolean
}

/** Something that can be taken up: dragged, or pressed and then put with another press. */
export function Grip({ held, isHeld, onHold, name, under, right, disabled = false }: Props) {
  return (
    <li>
      <button
        className={`grip ${isHeld ? 'held' : ''}`}
        draggable={!disabled}
        disabled={disabled}
        aria-pressed={isHeld}
        onDragStart={(event) => {
          event.dataTransfer.effectAllowed = 'move'
          event.dataTransfer.setData('text/plain', name)
          onHold(held)
        }}
        onDragEnd={() => onHold(null)}
        onClick={() => onHold(isHeld ? null : held)}
      >
        <span className="grip-name">{name}</span>
        {right && <span className="mono grip-right">{right}</span>}
        <span className="muted small grip-under">{under.filter(Boolean).join(' · ')}</span>
      </button>
    </li>
  )
}
