import { useQuery } from '@tanstack/react-query'
import { useParams } from '@tanstack/react-router'
import { api } from '../api/client'
import { Waiting } from '../parts/Trouble'
import { useTitle } from '../parts/title'
import { exact } from '../words'
import { ReportHead, ReportSheet } from './ReportSheet'
import '../parts/customer.css'

/** The report on the customer's telephone, as long as the link is open. */
export function CustomerReport() {
  useTitle('Report')
  const { link } = useParams({ from: '/report/$link' })
  const report = useQuery({
    queryKey: ['customer-report', link],
    queryFn: async () => (await api.GET('/api/v1/reports/{link}', { params: { path: { link } } })).data!,
    retry: false,
  })
  const r = report.data
  if (!r) return <Waiting error={report.error} />
  return (
    <main className="customer stack">
      <ReportHead report={r.report} level="h1" />
      <ReportSheet report={r.report} level="h2" />
      <p className="row">
        <a className="button" href={`/api/v1/reports/${link}/report.pdf`} target="_blank" rel="noreferrer">
          On paper
        </a>
        <a className="button" href={`/api/v1/reports/${link}/proof`} download>
          Its proof
        </a>
      </p>
      <p className="muted small">
        Proof <b className="mono">{r.proof}</b>, made {exact(r.report.at)}. This link is open until{' '}
        {exact(r.until)}; whether a proof is genuine is told at <a href="/proof">/proof</a> at any time.
      </p>
    </main>
  )
}
