import { TextInput } from '@mantine/core'

type Props = {
  /** What is asked; stands in the field until something is typed. */
  label: string
  value: string
  onChange: (value: string) => void
  autoFocus?: boolean
  inputMode?: 'numeric'
  /** Stands behind what is typed. */
  unit?: string
}

/** One line to type in, large enough for a glove. */
export function Field({ label, value, onChange, unit, ...rest }: Props) {
  return (
    <TextInput
      aria-label={label}
      placeholder={label}
      size="md"
      value={value}
      onChange={(e) => onChange(e.target.value)}
      rightSection={unit && value ? <span className="muted">{unit}</span> : undefined}
      {...rest}
    />
  )
}
