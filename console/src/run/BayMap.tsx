import { TextInput } from '@mantine/core'
import { empty, isOwn, ownBay } from './bays'

type Props = {
  bays: string[]
  value: Record<string, string>
  /** What came out of each bay; empty while that is being written down. */
  was: Record<string, string>
  /** What the before reading told of each bay, to be held against the label. */
  read?: Record<string, string>
  onChange: (value: Record<string, string>) => void
}

/** Which drive sits in which bay, in the order of the machine; typed or scanned. */
export function BayMap({ bays, value, was, read = {}, onChange }: Props) {
  const unsaid = bays.filter((bay) => !value[bay] && read[bay])
  return (
    <div className="bay-map">
      {unsaid.length > 1 && (
        <button
          className="button"
          onClick={() =>
            onChange({ ...value, ...Object.fromEntries(unsaid.map((bay) => [bay, read[bay]!])) })
          }
        >
          All labels are as read before
        </button>
      )}
      {bays.map((bay) => {
        const text = value[bay] ?? ''
        const own = ownBay(was, text)
        const right = isOwn(was, bay, text)
        const wrong = text.trim() !== '' && was[bay] !== undefined && !right
        return (
          <div key={bay} className={wrong ? 'bay wrong' : right ? 'bay right' : 'bay'}>
            <b className="mono">{bay}</b>
            <TextInput
              aria-label={`Drive in ${bay}`}
              size="md"
              placeholder={was[bay] ?? read[bay] ?? 'serial, or empty'}
              value={text}
              onChange={(e) => onChange({ ...value, [bay]: e.target.value })}
            />
            {wrong ? (
              <span className="verdict short">{own ? `belongs in ${own}` : 'not from here'}</span>
            ) : right ? (
              <span className="verdict as-planned">✓ its own</span>
            ) : (
              <button
                className="button"
                onClick={() => onChange({ ...value, [bay]: was[bay] ?? read[bay] ?? empty })}
              >
                {was[bay] ? 'Same' : read[bay] && read[bay] !== empty ? 'As read' : 'Empty'}
              </button>
            )}
          </div>
        )
      })}
    </div>
  )
}
