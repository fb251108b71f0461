import { SegmentedControl, Textarea, TextInput } from '@mantine/core'
import { useState } from 'react'
import {
  api,
  send,
  typedSize,
  type BundleFile,
  type OrderView,
  type Phase,
  type ReadingView,
} from '../api/client'
import { useChange } from '../api/queries'
import { FilePick } from '../parts/FilePick'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { driveSize, size } from '../words'
import { toBundleFiles } from './bundle'
import { FromMachine } from './FromMachine'
import { Name, useCalled } from '../people/Name'

/** What a reading says, slot by slot. */
export function ReadingFacts({ reading: view }: { reading: ReadingView }) {
  const { memory, system, firmware, sources } = view.reading
  return (
    <div className="stack">
      <p className="muted small">
        {sources.map((s) => s.replace('-', ' ')).join(' and ')}, by <Name id={view.by} />,{' '}
        <When at={view.at} />
        {system.product && ` · ${system.manufacturer ?? ''} ${system.product}`}
        {system.serial && ` · serial ${system.serial}`}
        {firmware.version && ` · firmware ${firmware.version}`}
      </p>
      {memory.slots.length > 0 && (
        <table className="slots-table">
          <thead>
            <tr>
              <th>slot</th>
              <th className="num">size</th>
              <th className="num">MT/s</th>
              <th>part</th>
              <th>serial</th>
            </tr>
          </thead>
          <tbody>
            {memory.slots.map((s, i) => (
              <tr key={i}>
                <td>{s.locator}</td>
                <td className="num">{s.sizeBytes === 0 ? 'empty' : size(s.sizeBytes)}</td>
                <td className="num">{s.runningSpeed ?? s.ratedSpeed ?? ''}</td>
                <td>{[s.manufacturer, s.partNumber].filter(Boolean).join(' ')}</td>
                <td className="mono">{s.serial}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <DrivesRead reading={view} />
      {(view.reading.conflicts ?? []).map((c) => (
        <p key={c.what + c.other}>
          <span className="verdict remark">! sources disagree</span> {c.what}: {c.first}, {c.other}
        </p>
      ))}
      {(view.reading.missing ?? []).length > 0 && (
        <p className="muted small">Left out: {view.reading.missing?.join('; ')}.</p>
      )}
    </div>
  )
}

/** Every reading of a phase in a line: who took it, from what, and what it says in all. */
export function ReadingList({ order, phase }: { order: OrderView; phase: Phase }) {
  const called = useCalled()
  const lines = order.readings.filter((r) => r.phase === phase)
  if (lines.length === 0 || (lines.length === 1 && phase !== 'during' && !lines[0]?.photo)) return null
  return (
    <ul className="reading-lines">
      {lines.map((r) => (
        <li key={r.sequence}>
          <span className="num muted">{r.sequence}</span>
          <span className="mono">{size(r.installedBytes)}</span>
          <span>
            {r.sources.map((s) => (s === 'eyes' ? 'seen by eye' : s.replace('-', ' '))).join(' and ')}
            {r.byMachine ? ', sent by the machine' : `, by ${called(r.by)}`}
            {phase === 'during' && ', case open'}
          </span>
          <span className="muted small">
            <When at={r.at} />
          </span>
          {r.photo && (
            <a href={`/api/v1/pictures/${r.photo}`} target="_blank" rel="noreferrer">
              picture
            </a>
          )}
        </li>
      ))}
    </ul>
  )
}

function DrivesRead({ reading: { reading } }: { reading: ReadingView }) {
  const drives = reading.drives ?? []
  const arrays = reading.arrays ?? []
  if (drives.length + arrays.length === 0) return null
  return (
    <>
      {drives.length > 0 && (
        <table className="slots-table">
          <thead>
            <tr>
              <th>drive</th>
              <th>size</th>
              <th className="num">used</th>
              <th>part</th>
              <th>state</th>
            </tr>
          </thead>
          <tbody>
            {drives.map((d, i) => (
              <tr key={i}>
                <td>{d.bay ?? d.device}</td>
                <td className="mono">{driveSize(d.drive.size, true)}</td>
                <td className="num">{d.usedBytes ? driveSize(d.usedBytes) : ''}</td>
                <td>{[d.drive.maker, d.drive.partNumber, d.drive.serial].filter(Boolean).join(' ')}</td>
                <td>{stateOf(d)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {arrays.map((a) => (
        <p key={a.name}>
          Array {a.name}: {a.present} of {a.wanted}
          {a.isDegraded && <b className="off"> degraded</b>}
          {a.doing && `, ${a.doing} ${a.percent} %, ${a.minutesLeft} min left`}
        </p>
      ))}
    </>
  )
}

function stateOf(d: NonNullable<ReadingView['reading']['drives']>[number]): string {
  const h = d.health
  return [
    d.boots && 'boots',
    d.initialised === false && 'raw',
    h && h.passed === false && 'failing',
    h?.wearPercent != null && `${h.wearPercent} % worn`,
    h?.hours != null && `${h.hours} h`,
    h?.reallocated ? `${h.reallocated} reallocated` : '',
    h?.linkNow && h.linkNow !== h.linkMost && `${h.linkNow} of ${h.linkMost}`,
  ]
    .filter(Boolean)
    .join(', ')
}

type How = 'machine' | 'capture' | 'eyes'

/** Takes a reading: sent by the machine, from the files of a capture, or typed in by eye. */
export function ReadingForm({ order, phase, now }: { order: OrderView; phase: Phase; now: boolean }) {
  const [how, setHow] = useState<How>('machine')
  const [open, setOpen] = useState(now)
  if (!open)
    return (
      <button className="button" onClick={() => setOpen(true)}>
        {phase === 'during' ? 'Read it with the case open' : `Take the ${phase} reading again`}
      </button>
    )
  return (
    <div className="form">
      <SegmentedControl
        value={how}
        onChange={(value) => setHow(value as How)}
        data={[
          { value: 'machine', label: 'From the machine' },
          { value: 'capture', label: 'From a capture' },
          { value: 'eyes', label: 'Seen by eye' },
        ]}
      />
      {how === 'machine' ? (
        <FromMachine order={order} phase={phase} now={now} />
      ) : how === 'capture' ? (
        <FromCapture order={order} phase={phase} now={now} />
      ) : (
        <ByEye order={order} phase={phase} now={now} />
      )}
    </div>
  )
}

type Props = { order: OrderView; phase: Phase; now: boolean }

function FromCapture({ order, phase, now }: Props) {
  const [files, setFiles] = useState<File[]>([])
  const change = useChange(async (files: BundleFile[], header) =>
    api.POST('/api/v1/orders/{number}/readings', {
      params: { path: { number: order.number }, header },
      body: { phase, capture: { format: 'revtal-capture/1', files } },
    }),
  )
  return (
    <>
      <label className="stack" style={{ gap: 6 }}>
        <span>
          Files of the capture{' '}
          <span className="muted">
            (the collector’s .revtal file from a stick; or smbios_entry_point, DMI, meminfo, lsblk and
            smartctl as JSON, mdstat, EEPROMs). Drop them here.
          </span>
        </span>
        <input
          type="file"
          multiple
          className="drop"
          onChange={(e) => setFiles([...(e.target.files ?? [])])}
          onDragOver={(e) => e.preventDefault()}
        />
      </label>
      <Trouble error={change.error} />
      <div>
        <button
          className={now ? 'button now' : 'button'}
          disabled={files.length === 0 || change.isPending}
          onClick={async () => change.send((await Promise.all(files.map(toBundleFiles))).flat())}
        >
          Take the {phase} reading
        </button>
      </div>
    </>
  )
}

function ByEye({ order, phase, now }: Props) {
  const [firmware, setFirmware] = useState('')
  const [system, setSystem] = useState('')
  const [slots, setSlots] = useState<Record<string, string>>({})
  const [drives, setDrives] = useState<SeenDrives>({})
  const [note, setNote] = useState('')
  const [photo, setPhoto] = useState<File | null>(null)
  const change = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/readings', {
      params: { path: { number: order.number }, header },
      body: {
        phase,
        seen: seenOf(firmware, system, slots, drives),
        note: note || null,
        photo: photo ? await keepPicture(photo) : null,
      },
    }),
  )
  return (
    <>
      <div className="two">
        <TextInput
          label="The firmware shows"
          placeholder="16 GB"
          value={firmware}
          onChange={(e) => setFirmware(e.target.value)}
        />
        <TextInput
          label="The system shows"
          placeholder="15.6 GB"
          value={system}
          onChange={(e) => setSystem(e.target.value)}
        />
        {order.positions.map((p) => (
          <TextInput
            key={p.slot.id}
            label={`In ${p.slot.id}`}
            placeholder="8 GB, or empty"
            value={slots[p.slot.id] ?? ''}
            onChange={(e) => setSlots({ ...slots, [p.slot.id]: e.target.value })}
          />
        ))}
      </div>
      {order.bays.length > 0 && <Drives order={order} drives={drives} onChange={setDrives} />}
      <Textarea label="Note" autosize value={note} onChange={(e) => setNote(e.target.value)} />
      <p className="row small">
        <FilePick label="A picture of what is seen" accept="image/*" onPick={setPhoto} />
        {photo?.name}
      </p>
      <Trouble error={change.error} />
      <div>
        <button
          className={now ? 'button now' : 'button'}
          disabled={change.isPending}
          onClick={() => change.send(null)}
        >
          Take the {phase} reading
        </button>
      </div>
    </>
  )
}

const keepPicture = async (file: File) =>
  ((await (await send('POST', 'pictures', file, undefined, file.type)).json()) as { hash: string }).hash

function seenOf(firmware: string, system: string, slots: Record<string, string>, drives: SeenDrives) {
  const typed = (text: string) => (text.trim() ? typedSize(text) : null)
  return {
    firmwareShows: typed(firmware),
    systemShows: typed(system),
    slots: Object.entries(slots)
      .filter(([, text]) => text.trim())
      .map(([slot, text]) => ({
        slot,
        module: text.trim().toLowerCase() === 'empty' ? null : { size: typed(text)! },
      })),
    drives: Object.entries(drives)
      .filter(([, d]) => d.size?.trim())
      .map(([bay, d]) => ({
        bay,
        drive:
          d.size?.trim().toLowerCase() === 'empty'
            ? null
            : { size: typed(d.size ?? '')!, serial: d.serial?.trim() || null },
        used: typed(d.used ?? ''),
      })),
  }
}

type SeenDrives = Record<string, { size?: string; used?: string; serial?: string }>

/** The drives, where the capture does not tell them. */
function Drives(props: { order: OrderView; drives: SeenDrives; onChange: (drives: SeenDrives) => void }) {
  const { order, drives, onChange } = props
  return (
    <div className="seen-drives">
      {order.bays.map((b) =>
        (['size', 'used', 'serial'] as const).map((field) => (
          <TextInput
            key={`${b.id} ${field}`}
            aria-label={`${field} of the drive in ${b.id}`}
            placeholder={{ size: `${b.id}: 500 GB, or empty`, used: 'of it used', serial: 'serial' }[field]}
            value={drives[b.id]?.[field] ?? ''}
            onChange={(e) => onChange({ ...drives, [b.id]: { ...drives[b.id], [field]: e.target.value } })}
          />
        )),
      )}
    </div>
  )
}
