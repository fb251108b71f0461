import { NativeSelect, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, newKey, type MovePartRequest, type PartLine } from '../api/client'
import { Trouble } from '../parts/Trouble'
import { money } from '../words'

type Claim = { number: string; on: string; reason: string }

/** Under what a faulty part goes back to who sold it. */
function ClaimForm({ sending, onSend }: { sending: boolean; onSend: (claim: Claim) => void }) {
  const [number, setNumber] = useState('')
  const [reason, setReason] = useState('')
  return (
    <form
      className="row"
      onSubmit={(e) => {
        e.preventDefault()
        onSend({ number, on: new Date().toLocaleDateString('sv'), reason })
      }}
    >
      <TextInput
        aria-label="Number of the claim"
        placeholder="number of the claim"
        value={number}
        onChange={(e) => setNumber(e.target.value)}
        autoFocus
      />
      <TextInput
        aria-label="What is claimed"
        placeholder="what is claimed"
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <button className="button" disabled={sending || !number.trim() || !reason.trim()}>
        It goes back
      </button>
    </form>
  )
}

/** The parts of one kind: where each is, and what may become of it. New ones are typed or scanned in. */
export function KindItems({ line }: { line: PartLine }) {
  const client = useQueryClient()
  const [serials, setSerials] = useState('')
  const [cost, setCost] = useState('')
  const [place, setPlace] = useState('')
  const number = line.kind.number
  const view = useQuery({
    queryKey: ['part', number],
    queryFn: async () =>
      (await api.GET('/api/v1/parts/kind/{number}', { params: { path: { number } } })).data!,
  })
  const refetch = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ['part', number] }),
      client.invalidateQueries({ queryKey: ['parts'] }),
    ])
  const receive = useMutation({
    mutationFn: async (header: ReturnType<typeof newKey>) => {
      const typed = serials.split(/[\s,;]+/).filter(Boolean)
      const count = typed.length === 1 && /^\d{1,3}$/.test(typed[0]!) ? Number(typed[0]) : null
      await api.POST('/api/v1/parts/kind/{number}/items', {
        params: { path: { number }, header },
        body: { count, serials: count ? [] : typed, cost: Number(cost) || null, place: place || null },
      })
    },
    onSuccess: () => {
      setSerials('')
      return refetch()
    },
  })
  const [claims, setClaims] = useState<number | null>(null)
  const move = useMutation({
    mutationFn: ({ id, to, claim }: { id: number; to: MovePartRequest['to']; claim?: Claim }) =>
      api.POST('/api/v1/parts/items/{id}/move', {
        params: { path: { id }, header: newKey() },
        body: { to, claim: claim ?? null },
      }),
    onSuccess: () => {
      setClaims(null)
      return refetch()
    },
  })
  const becomes = (id: number, from: string, to: MovePartRequest['to']) =>
    // A faulty part goes back under a claim.
    from === 'faulty' && to === 'returned' ? setClaims(id) : move.mutate({ id, to })
  const { items, gone } = view.data ?? { items: [], gone: 0 }
  return (
    <div className="stack kind-items">
      <p className="muted small">
        {[line.kind.module?.generation, line.kind.module?.form, line.kind.drive?.form, line.kind.drive?.link]
          .filter(Boolean)
          .join(', ')}
        {line.kind.pieces > 1 && `, kit of ${line.kind.pieces}`}
        {line.kind.supplier && `, from ${line.kind.supplier}`}
        {line.kind.warrantyMonths && `, ${line.kind.warrantyMonths} months of warranty`}
        {line.kind.elsewhere &&
          `. ${money(line.kind.price)} here, ${money(line.kind.elsewhere.price)} elsewhere` +
            ` (${line.kind.elsewhere.whose}, ${line.kind.elsewhere.seen})`}
      </p>
      <ul className="items">
        {items.map(({ item: i, ways }) => (
          <li key={i.id} className="row">
            <span className="mono">{i.serial ?? `no. ${i.id}`}</span>
            <span className={i.state === 'in-stock' ? '' : 'muted'}>{i.state.replace('-', ' ')}</span>
            {i.order && (
              <Link to="/orders/$number" params={{ number: String(i.order) }} className="mono">
                {i.order} {i.position}
              </Link>
            )}
            {i.kit && <span className="small muted">kit {i.kit}</span>}
            {i.grade && (
              <span className="small">
                used, grade {i.grade}: {i.tested}
              </span>
            )}
            <span className="small muted">{i.place}</span>
            {ways.length > 0 && (
              <NativeSelect
                aria-label={`What becomes of ${i.serial ?? i.id}`}
                value=""
                onChange={(e) => becomes(i.id, i.state, e.target.value as (typeof ways)[number])}
                data={[
                  { value: '', label: 'becomes…' },
                  ...ways.map((s) => ({ value: s, label: s.replace('-', ' ') })),
                ]}
              />
            )}
            {claims === i.id && (
              <ClaimForm
                sending={move.isPending}
                onSend={(claim) => move.mutate({ id: i.id, to: 'returned', claim })}
              />
            )}
          </li>
        ))}
      </ul>
      {gone > 0 && (
        <p className="muted small">
          {gone} more {gone === 1 ? 'is' : 'are'} sold, returned or scrapped.
        </p>
      )}
      <Trouble error={receive.error ?? move.error} />
      <form
        className="row receive"
        onSubmit={(e) => {
          e.preventDefault()
          receive.mutate(newKey())
        }}
      >
        <TextInput
          aria-label="Serials, or how many"
          placeholder="serials, or how many"
          value={serials}
          onChange={(e) => setSerials(e.target.value)}
        />
        <TextInput
          aria-label="Cost of one"
          placeholder="cost of one"
          value={cost}
          onChange={(e) => setCost(e.target.value)}
        />
        <TextInput
          aria-label="Where they lie"
          placeholder="where they lie"
          value={place}
          onChange={(e) => setPlace(e.target.value)}
        />
        <button className="button" disabled={!serials.trim() || receive.isPending}>
          They come in
        </button>
      </form>
    </div>
  )
}
