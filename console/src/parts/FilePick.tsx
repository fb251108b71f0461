type Props = {
  label: string
  /** Said instead of the label where that is too short by itself. */
  name?: string
  accept?: string
  disabled?: boolean
  /** A tablet opens its camera for it. */
  camera?: boolean
  onPick: (file: File) => void
}

/** A button that asks for one file. The same one may be chosen again: it may have changed. */
export function FilePick({ label, name, accept, disabled = false, camera = false, onPick }: Props) {
  return (
    <label className="button">
      {label}
      <input
        type="file"
        className="unseen"
        aria-label={name}
        accept={accept}
        disabled={disabled}
        capture={camera ? 'environment' : undefined}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) onPick(file)
        }}
      />
    </label>
  )
}
