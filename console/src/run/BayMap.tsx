import { TextInput } from '@mantine/core'

type Props = {
  bays: string[]
  value: Record<string, string>
  /** What came out of each bay; empty while that is being written down. */
  was: Record<string, string>
  onChange: (value: Record<string, string>) => void
}

/** Which drive sits in which bay, in the order of the machine; typed or scanned. */
export function BayMap({ bays, value, was, onChange }: Props) {
  return (
    <div className="bay-map">
      {bays.map((bay) => {
        const text = value[bay] ?? ''
        const own = Object.keys(was).find((b) => text && was[b]!.toLowerCase() === text.trim().toLowerCase())
        const wrong = text.trim() !== '' && was[bay] !== undefined && own !== bay
        return (
          <div key={bay} className={wrong ? 'bay wrong' : text && was[bay] ? 'bay right' : 'bay'}>
            <b className="mono">{bay}</b>
            <TextInput
              aria-label={`Drive in ${bay}`}
              size="md"
              placeholder={was[bay] ?? 'serial, or empty'}
              value={text}
              onChange={(e) => onChange({ ...value, [bay]: e.target.value })}
            />
            {wrong ? (
              <span className="verdict short">{own ? `belongs in ${own}` : 'not from here'}</span>
            ) : was[bay] && text ? (
              <span className="verdict as-planned">✓ its own</span>
            ) : (
              <button className="button" onClick={() => onChange({ ...value, [bay]: was[bay] ?? 'empty' })}>
                {was[bay] ? 'Same' : 'Empty'}
              </button>
            )}
          </div>
        )
      })}
    </div>
  )
}
