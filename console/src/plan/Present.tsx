import type { OrderView } from '../api/client'
import { driveSize } from '../words'
import { Grip } from './Grip'
import type { Held } from './wishes'

type Props = { order: OrderView; held: Held | null; onHold: (held: Held | null) => void }

/** What is in the machine now: each can be taken up and put elsewhere. */
export function Present({ order, held, onHold }: Props) {
  const modules = order.positions.filter((p) => p.before?.module)
  const drives = order.before?.reading.drives ?? []
  return (
    <section className="sheet stack plan-side" aria-label="In the machine">
      <h2>In the machine</h2>
      {modules.length + drives.length === 0 && <p className="muted">Nothing was found in it.</p>}
      <ul className="grips">
        {modules.map((p) => (
          <Grip
            key={p.slot.id}
            held={{ kind: 'present', slot: p.slot.id }}
            isHeld={held?.kind === 'present' && held.slot === p.slot.id}
            onHold={onHold}
            disabled={p.slot.soldered}
            name={`${p.slot.id}: ${p.before!.spoken}`}
            under={[
              p.before!.module!.generation,
              p.before!.module!.ratedSpeed && `${p.before!.module!.ratedSpeed} MT/s`,
              p.before!.module!.partNumber,
              p.slot.soldered && 'soldered',
            ]}
          />
        ))}
        {drives.map(
          (d) =>
            d.bay && (
              <Grip
                key={d.bay}
                held={{ kind: 'present-drive', bay: d.bay }}
                isHeld={held?.kind === 'present-drive' && held.bay === d.bay}
                onHold={onHold}
                name={`${d.bay}: ${driveSize(d.drive.size)}`}
                under={[d.drive.form, d.usedBytes && `${driveSize(d.usedBytes)} used`, d.drive.partNumber]}
              />
            ),
        )}
      </ul>
      {order.advice && <p className="small muted">{order.advice.because}</p>}
    </section>
  )
}
