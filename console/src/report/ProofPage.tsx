import { TextInput } from '@mantine/core'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useNavigate, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { api, type Proof } from '../api/client'
import { FilePick } from '../parts/FilePick'
import { Trouble, Waiting } from '../parts/Trouble'
import { VerdictMark } from '../parts/VerdictMark'
import { useTitle } from '../parts/title'
import { exact } from '../words'
import { ReportHead, ReportSheet } from './ReportSheet'
import '../parts/customer.css'

/** Whether a proof is what the shop signed: by its file, or by the id on the paper. */
export function ProofPage() {
  useTitle('Proof')
  const go = useNavigate()
  const [id, setId] = useState('')
  const check = useMutation({
    mutationFn: async (file: File) =>
      (await api.POST('/api/v1/proofs/check', { body: { proof: await file.text() } })).data!,
  })
  return (
    <main className="customer stack">
      <h1>Is this proof genuine?</h1>
      <p>
        A report of the bench comes with a proof. Here anybody sees whether the shop signed it, and whether it
        was changed since.
      </p>
      <div className="row">
        <FilePick
          label="Choose the proof's file"
          disabled={check.isPending}
          onPick={(f) => check.mutate(f)}
        />
      </div>
      <form
        className="form"
        onSubmit={(e) => {
          e.preventDefault()
          void go({ to: '/proof/$id', params: { id: id.trim() } })
        }}
      >
        <TextInput
          label="Or its id, as it stands on the paper"
          placeholder="107-7K3M-Q9ZT-W2XB"
          value={id}
          onChange={(e) => setId(e.target.value)}
        />
        <button className="button" disabled={!id.trim()}>
          Look
        </button>
      </form>
      <Trouble error={check.error} />
      {check.data && <Told proof={check.data} />}
    </main>
  )
}

function Told({ proof }: { proof: Proof }) {
  if (!proof.genuine || !proof.report)
    return (
      <p className="verdict short" role="status">
        ✕ {proof.sentence}
      </p>
    )
  return (
    <div className="stack" role="status">
      <p className="verdict as-planned">✓ {proof.sentence}</p>
      <p className="muted small">
        Proof <b className="mono">{proof.id}</b>, {exact(proof.at!)}
        {proof.isLast === false && '. A later report took its place'}
      </p>
      <ReportHead report={proof.report} level="h2" />
      <ReportSheet report={proof.report} level="h3" />
    </div>
  )
}

/** What is told of a proof by its id alone: whose it is, and nothing of the customer. */
export function ProofOf() {
  useTitle('Proof')
  const { id } = useParams({ from: '/proof/$id' })
  const mark = useQuery({
    queryKey: ['proof', id],
    queryFn: async () => (await api.GET('/api/v1/proofs/{id}', { params: { path: { id } } })).data!,
    retry: false,
  })
  const m = mark.data
  if (!m) return <Waiting error={mark.error} />
  return (
    <main className="customer stack">
      <p className="muted">{m.shop}</p>
      <h1>This proof is genuine</h1>
      <p>
        <b className="mono">{m.id}</b>, made {exact(m.at)} for order <b className="mono">{m.order}</b>,{' '}
        {m.machine}.
      </p>
      <p className="report-verdict">
        <VerdictMark verdict={m.verdict} /> {m.sentence}
      </p>
      {!m.isLast && <p className="trouble">A later report took its place. Ask the shop for that one.</p>}
      <p className="muted small">
        Compare this with the paper in your hand. Whether its file was changed is told{' '}
        <a href="/proof">here</a>.
      </p>
    </main>
  )
}
