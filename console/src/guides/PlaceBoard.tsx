import { NativeSelect } from '@mantine/core'
import { useState, type MouseEvent } from 'react'
import type { Guide } from '../api/client'
import { BoardDrawing } from '../positions/BoardDrawing'
import { boardMargin, coverMargin, pressed } from '../positions/plate'
import { Cover } from '../run/Cover'
import { setPlace, type Place } from './places'

type Props = { guide: Guide | null; yaml: string; onChange: (yaml: string) => void }

/** Places slots, bays and fasteners by hand: choose one, then press where it sits on the drawing. */
export function PlaceBoard({ guide, yaml, onChange }: Props) {
  const [chosen, setChosen] = useState('')
  // The last guide without problems stays in sight while a line is half written.
  const [last, setLast] = useState(guide)
  if (guide && guide !== last) setLast(guide)
  const shown = guide ?? last
  if (!shown) return <p className="muted">The drawing comes with the first file that has no problem.</p>
  const places = placesOf(shown)
  const place = places.find((p) => p.id === chosen)
  const removal = place?.kind === 'fastener' ? shown.removals.find((r) => r.id === place.removal) : undefined
  const press = (event: MouseEvent<HTMLDivElement>) => {
    const svg = event.currentTarget.querySelector('svg')
    if (!place || !svg) return
    const { x, y } = pressed(event, svg.getBoundingClientRect(), removal ? coverMargin : boardMargin)
    onChange(setPlace(yaml, place, x, y))
    // On to the next hole of the same group.
    const next = places[places.indexOf(place) + 1]
    if (place.kind === 'fastener' && next?.kind === 'fastener' && next.group === place.group)
      setChosen(next.id)
  }
  return (
    <div className="stack place">
      <NativeSelect
        label="Place on the drawing"
        value={chosen}
        onChange={(e) => setChosen(e.target.value)}
        data={[
          { value: '', label: 'choose what, then press where it sits' },
          ...places.map((p) => ({ value: p.id, label: p.label })),
        ]}
      />
      <div onClick={press} className={place ? 'placing' : undefined}>
        {removal ? (
          <Cover
            fasteners={removal.fasteners}
            shapes={removal.shapes}
            clips={removal.clips}
            pry={removal.pry}
            face={removal.face}
          />
        ) : (
          <BoardDrawing
            slots={shown.memory.slots}
            bays={shown.drives}
            here={place?.kind === 'slot' || place?.kind === 'bay' ? place.name : null}
          />
        )}
      </div>
      {!guide && <p className="muted">Drawn from the last state without problems.</p>}
    </div>
  )
}

function placesOf(guide: Guide): (Place & { id: string; label: string })[] {
  return [
    ...guide.memory.slots.map((s) => ({
      kind: 'slot' as const,
      name: s.id,
      id: `slot ${s.id}`,
      label: `slot ${s.id}`,
    })),
    ...guide.drives.map((d) => ({
      kind: 'bay' as const,
      name: d.id,
      id: `bay ${d.id}`,
      label: `bay ${d.id}`,
    })),
    ...guide.removals.flatMap((r) =>
      r.fasteners.flatMap((f) =>
        Array.from({ length: f.count }, (_, i) => ({
          kind: 'fastener' as const,
          removal: r.id,
          group: f.group,
          index: i,
          id: `${f.group}/${i + 1}`,
          label: `${r.title}: ${f.group} ${i + 1} of ${f.count}`,
        })),
      ),
    ),
  ]
}
