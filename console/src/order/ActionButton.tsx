import type { Finding, OrderView } from '../api/client'
import { ReseatButton } from './RunSummary'
import { BeginSwapTest } from './SwapTest'

/** Starts what a finding asks for: the first heavy one carries the lamp. */
export function ActionButton({ order, finding }: { order: OrderView; finding: Finding }) {
  const first = order.check?.findings.find((f) => f.severity !== 'note') === finding
  if (order.stage !== 'checking' || order.swap) return null
  switch (finding.action.kind) {
    case 'reseat':
      return (
        <ReseatButton
          order={order}
          slots={finding.action.slots}
          now={first && order.next.kind === 'reseat'}
        />
      )
    case 'swap-test':
      return <BeginSwapTest order={order} now={first && order.next.kind === 'swap-test'} />
    case 'set-up':
    case 'setting':
    case 'read-again':
      return (
        <p className="small">
          <a href="#again">Done? Read it again</a>
        </p>
      )
    default:
      return null
  }
}
