import { NativeSelect, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, newKey, type DummyActRequest } from '../api/client'
import { dummiesQuery } from '../api/queries'
import { Trouble, Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { size } from '../words'
import './dummies.css'

type Dummy = NonNullable<Awaited<ReturnType<NonNullable<typeof dummiesQuery.queryFn>>>>[number]
type Act = Omit<DummyActRequest, 'raw'> & { raw?: boolean }

/** Simulated machines, to learn on and to try the whole job without hardware. */
export function Dummies() {
  useTitle('Dummies')
  const all = useQuery(dummiesQuery)
  const [name, setName] = useState('')
  if (!all.data) return <Waiting error={all.error} />
  const dummy = all.data.find((d) => d.name === name) ?? all.data[0]
  return (
    <div className="page stack">
      <div className="row">
        <h1>Dummies</h1>
        <p className="muted">Simulated machines: open them, refit them, start them, read them.</p>
      </div>
      {dummy ? (
        <div className="dummies">
          <nav aria-label="Dummies" className="dummy-names">
            {all.data.map((d) => (
              <button
                key={d.name}
                className={d === dummy ? 'dummy-name on' : 'dummy-name'}
                aria-pressed={d === dummy}
                onClick={() => setName(d.name)}
              >
                <b className="mono">{d.name}</b>
                <span className="muted small">
                  {d.model}, {d.isOpen ? 'open' : 'closed'}, {d.isOn ? 'on' : 'off'}
                </span>
              </button>
            ))}
          </nav>
          <Bench key={dummy.name} dummy={dummy} />
        </div>
      ) : (
        <p className="sheet">No dummy yet. Make one: revtal dummy make NAME MODEL.</p>
      )}
    </div>
  )
}

function Bench({ dummy }: { dummy: Dummy }) {
  const client = useQueryClient()
  const [shown, setShown] = useState<Dummy['shown']>(null)
  const [code, setCode] = useState('')
  const act = useMutation({
    mutationFn: async (act: Act) =>
      (
        await api.POST('/api/v1/dummies/{name}/acts', {
          params: { path: { name: dummy.name }, header: newKey() },
          body: { raw: false, ...act },
        })
      ).data!,
    onSuccess: (after, { act }) => {
      if (act !== 'seat') setShown(after.shown ?? null)
      return client.invalidateQueries({ queryKey: dummiesQuery.queryKey })
    },
  })
  const collect = useMutation({
    mutationFn: async (code: string) =>
      (
        await api.POST('/api/v1/dummies/{name}/send', {
          params: { path: { name: dummy.name }, header: newKey() },
          body: { code },
        })
      ).data!,
  })
  return (
    <div className="sheet stack">
      <div className="row">
        <h2>
          <span className="mono">{dummy.name}</span> {dummy.model}
        </h2>
        <span className="muted">
          serial <span className="mono">{dummy.serial}</span>
        </span>
        {dummy.settings.map((s) => (
          <span key={s} className="verdict remark">
            {s}
          </span>
        ))}
      </div>
      <div className="row">
        {dummy.isOn ? (
          <button className="button" onClick={() => act.mutate({ act: 'off' })}>
            Switch it off
          </button>
        ) : (
          <button className="button now" onClick={() => act.mutate({ act: 'start' })}>
            Start it
          </button>
        )}
        <button className="button" onClick={() => act.mutate({ act: dummy.isOpen ? 'close' : 'open' })}>
          {dummy.isOpen ? 'Close it' : 'Open it'}
        </button>
        <button
          className="button"
          onClick={() =>
            act.mutate({
              act: 'set',
              how: dummy.settings.includes('profile off') ? 'profile-on' : 'profile-off',
            })
          }
        >
          {dummy.settings.includes('profile off') ? 'Profile on' : 'Profile off'}
        </button>
      </div>
      {shown && (
        <p role="status" className="shown">
          {shown.started ? (
            <>
              <b>It starts: {size(shown.firmwareShows)}</b> in {shown.slotsSeen.join(', ')}
              {shown.notices.map((n) => `; ${n}`)}
              {!shown.systemRuns && <b className="off">; no system is found</b>}
            </>
          ) : (
            <b className="off">It does not start{shown.sign && `: ${shown.sign}`}</b>
          )}
        </p>
      )}
      <Trouble error={act.error} />
      <table className="slots-table">
        <thead>
          <tr>
            <th>position</th>
            <th>holds</th>
            <th>seat</th>
            <th>fault</th>
            <th>hands</th>
          </tr>
        </thead>
        <tbody>
          {dummy.positions.map((p) => (
            <Position key={p.position} dummy={dummy} position={p} act={act.mutate} />
          ))}
        </tbody>
      </table>
      <form
        className="row"
        onSubmit={(e) => {
          e.preventDefault()
          collect.mutate(code)
        }}
      >
        <TextInput
          aria-label="Code"
          placeholder="code of a reading"
          value={code}
          onChange={(e) => setCode(e.target.value)}
        />
        <button className="button" disabled={!code.trim() || collect.isPending}>
          Let its collector send
        </button>
        <a
          href={`/api/v1/dummies/${dummy.name}/capture`}
          download={`${dummy.name}.revtal`}
          className="button"
        >
          Write to a stick
        </a>
        {collect.data && <span role="status">{collect.data.text}</span>}
      </form>
      <Trouble error={collect.error} />
    </div>
  )
}

const slotSizes = ['4', '8', '16', '32']
const seats = ['home', 'half', 'askew']

function Position(props: { dummy: Dummy; position: Dummy['positions'][number]; act: (act: Act) => void }) {
  const { dummy, position: p, act } = props
  const isSlot = p.isSlot && p.occupant
  const others = dummy.positions.filter((o) => o.isSlot && o.position !== p.position)
  return (
    <tr>
      <td className="mono">{p.position}</td>
      <td>
        {p.occupant ?? <span className="muted">empty</span>} <span className="mono muted">{p.serial}</span>
      </td>
      <td>
        {p.occupant && !dummy.isOpen && p.seat}
        {p.occupant && dummy.isOpen && (
          <NativeSelect
            aria-label={`Seat in ${p.position}`}
            value={p.seat}
            data={seats}
            onChange={(e) => act({ act: 'seat', position: p.position, how: e.target.value })}
          />
        )}
      </td>
      <td className={p.fault ? 'off' : undefined}>{p.fault}</td>
      <td>
        <NativeSelect
          aria-label={`Hands at ${p.position}`}
          value=""
          onChange={(e) => {
            const [verb, what] = e.target.value.split(' ')
            if (verb === 'fit') act({ act: 'fit', position: p.position, gigabytes: Number(what) })
            else if (verb === 'move') act({ act: 'move', position: what, from: p.position })
            else if (verb === 'spoil') act({ act: 'spoil', position: p.position, how: what })
            else if (verb) act({ act: verb as Act['act'], position: p.position })
          }}
        >
          <option value="">…</option>
          {!p.occupant &&
            p.isSlot &&
            slotSizes.map((s) => <option key={s} value={`fit ${s}`}>{`fit ${s} GB`}</option>)}
          {!p.occupant && !p.isSlot && <option value="fit 1000">fit 1 TB</option>}
          {p.occupant && <option value="pull">pull it</option>}
          {isSlot &&
            others.map((o) => (
              <option key={o.position} value={`move ${o.position}`}>{`move it to ${o.position}`}</option>
            ))}
          {isSlot && <option value="spoil silent">spoil: not seen</option>}
          {isSlot && <option value="spoil stops">spoil: no start</option>}
          {!p.isSlot && p.occupant && <option value="spoil worn">spoil: worn</option>}
          {!p.isSlot && p.occupant && <option value="spoil lanes">spoil: two lanes</option>}
          {p.isSlot && <option value="spoil slot">spoil the slot</option>}
          <option value="mend">mend it</option>
        </NativeSelect>
      </td>
    </tr>
  )
}
