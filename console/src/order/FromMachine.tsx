import { NativeSelect } from '@mantine/core'
import { useState } from 'react'
import { serverNow } from '../api/clock'
import { api, type OrderView, type Phase, type Receipt } from '../api/client'
import { useChange } from '../api/queries'
import { HereOnly } from '../parts/HereOnly'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { Name } from '../people/Name'

const systems = [
  ['linux', 'Linux'],
  ['windows', 'Windows'],
  ['macos', 'macOS'],
] as const
type System = (typeof systems)[number][0]
type Invitation = { code: string; until: string; lines: Record<string, string>; hereOnly: boolean }

/** The machine sends its own reading: a code, and one line to type on it. */
export function FromMachine({ order, phase, now }: { order: OrderView; phase: Phase; now: boolean }) {
  const [made, setMade] = useState<Invitation | null>(null)
  const [system, setSystem] = useState<System>('linux')
  const [watch, setWatch] = useState(0)
  const change = useChange(async (_: null, header) => {
    const answer = await api.POST('/api/v1/orders/{number}/invites', {
      params: { path: { number: order.number }, header },
      body: { phase, minutes: 60, watch: watch || null },
    })
    setMade(answer.data as Invitation)
    return { data: answer.data?.receipt as Receipt }
  })
  const open = order.invites.find((i) => i.phase === phase && Date.parse(i.until) > serverNow())
  if (!made)
    return (
      <>
        <p className="muted">
          A code lets the machine itself send one {phase} reading. Its script only reads: no names of people,
          no files.
        </p>
        {open && (
          <p className="small">
            <Name id={open.by} /> made a code that ends <When at={open.until} />. A new one closes it.
          </p>
        )}
        <Trouble error={change.error} />
        <div className="row">
          <NativeSelect
            aria-label="Watch the load first"
            value={watch}
            onChange={(e) => setWatch(Number(e.target.value))}
            data={[
              { value: '0', label: 'reads at once' },
              ...[5, 10, 30, 60].map((m) => ({
                value: `${m}`,
                label: `watches the load for ${m} min first`,
              })),
            ]}
          />
          <button
            className={now ? 'button now' : 'button'}
            disabled={change.isPending}
            onClick={() => change.send(null)}
          >
            Make a code
          </button>
        </div>
        <Sticks />
      </>
    )
  return (
    <>
      <p className="invite-code mono" aria-label="Code">
        {made.code}
      </p>
      <div className="row" role="group" aria-label="System of the machine">
        {systems.map(([id, name]) => (
          <button key={id} className="button" aria-pressed={id === system} onClick={() => setSystem(id)}>
            {name}
          </button>
        ))}
      </div>
      <code className="link-once">{made.lines[system]}</code>
      <HereOnly is={made.hereOnly} />
      <p className="muted" role="status">
        {open ? (
          <>
            Waiting for the machine; it may send once. The code ends <When at={made.until} />.
          </>
        ) : (
          'It was used.'
        )}
      </p>
      <Sticks />
    </>
  )
}

/** The scripts for a machine without a network. */
export function Sticks({ under = 'From a capture' }: { under?: string }) {
  return (
    <p className="small muted">
      No network? Carry the script on a stick:{' '}
      {systems.map(([id, name], i) => (
        <span key={id}>
          {i > 0 && ', '}
          <a href={`/api/v1/collector/${id}`} download={`revtal-collect.${id === 'windows' ? 'ps1' : 'sh'}`}>
            {name}
          </a>
        </span>
      ))}
      . It writes one file; give it under “{under}”.
    </p>
  )
}
