/** A small number by two large buttons. */
export function Stepper(props: { label: string; value: number; onChange: (value: number) => void }) {
  return (
    <div className="stepper" role="group" aria-label={props.label}>
      <span className="muted">{props.label}</span>
      <button
        className="button"
        aria-label={`${props.label}: one fewer`}
        disabled={props.value === 0}
        onClick={() => props.onChange(props.value - 1)}
      >
        −
      </button>
      <output className="mono">{props.value}</output>
      <button
        className="button"
        aria-label={`${props.label}: one more`}
        disabled={props.value === 99}
        onClick={() => props.onChange(props.value + 1)}
      >
        +
      </button>
    </div>
  )
}
