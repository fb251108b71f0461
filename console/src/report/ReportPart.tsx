import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, newKey, type Offer } from '../api/client'
import { reportQuery, useChange } from '../api/queries'
import { Trouble, Waiting } from '../parts/Trouble'
import { When } from '../parts/When'
import { ShownLink } from '../plan/ShownLink'
import { exact } from '../words'
import { ReportSheet } from './ReportSheet'

/** What the customer takes home: as it was made and signed, else as it would be made now. */
export function ReportPart({ number }: { number: number }) {
  const client = useQueryClient()
  const report = useQuery(reportQuery(number))
  const [offer, setOffer] = useState<Offer | null>(null)
  const make = useChange(async (_: null, header) =>
    api.POST('/api/v1/orders/{number}/report', { params: { path: { number }, header } }),
  )
  const link = useMutation({
    mutationFn: async (header: ReturnType<typeof newKey>) =>
      (
        await api.POST('/api/v1/orders/{number}/report/link', {
          params: { path: { number }, header },
          body: { days: 30 },
        })
      ).data!,
    onSuccess: (offer) => {
      setOffer(offer)
      return client.invalidateQueries({ queryKey: ['order', number] })
    },
  })
  const view = report.data
  if (!view) return <Waiting error={report.error} />
  return (
    <>
      <p className="row">
        {view.proof ? (
          <>
            <span>
              Proof <b className="mono">{view.proof}</b>
            </span>
            <span className="muted small">
              made <When at={view.madeAt!} />, {view.madeBy}
            </span>
            <a href={`/api/v1/orders/${number}/report.pdf`} target="_blank" rel="noreferrer">
              On paper
            </a>
            <a href={`/api/v1/orders/${number}/proof`} download>
              Its proof
            </a>
          </>
        ) : (
          <span>As it would be made now. Nothing vouches for it yet.</span>
        )}
      </p>
      {view.proof && !view.isCurrent && (
        <p>
          <span className="verdict remark">!</span> More was recorded since it was made. Make it anew, and the
          old one stays good for what it says.
        </p>
      )}
      <Trouble error={make.error ?? link.error} />
      {offer && <ShownLink offer={offer} />}
      {view.linkUntil && !offer && (
        <p className="muted small">The customer&apos;s link is open until {exact(view.linkUntil)}.</p>
      )}
      <div className="row">
        {!view.isCurrent && (
          <button className="button" disabled={make.isPending} onClick={() => make.send(null)}>
            {view.proof ? 'Make it anew' : 'Make the report'}
          </button>
        )}
        {view.proof && (
          <button className="button" disabled={link.isPending} onClick={() => link.mutate(newKey())}>
            {view.linkUntil ? 'Make another link' : 'Make a link for the customer'}
          </button>
        )}
      </div>
      <ReportSheet report={view.report} level="h3" />
    </>
  )
}
