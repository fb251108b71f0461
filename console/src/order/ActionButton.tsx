import type { Finding, OrderView } from '../api/client'
import { may } from './acts'
import { ReseatButton } from './RunSummary'
import { BeginSwapTest } from './SwapTest'

/** Starts what a finding asks for: the first heavy one carries the lamp. */
export function ActionButton({ order, finding }: { order: OrderView; finding: Finding }) {
  const first = order.check?.findings.find((f) => f.severity !== 'note') === finding
  switch (finding.action.kind) {
    case 'reseat':
      return may(order, 'begin-reseat') ? (
        <ReseatButton
          order={order}
          slots={finding.action.slots}
          now={first && order.next.kind === 'reseat'}
        />
      ) : null
    case 'swap-test':
      return may(order, 'begin-swap-test') ? (
        <BeginSwapTest order={order} now={first && order.next.kind === 'swap-test'} />
      ) : null
    case 'set-up':
    case 'setting':
    case 'read-again':
      return may(order, 'read-after') ? (
        <p className="small">
          <a href="#again">Done? Read it again</a>
        </p>
      ) : null
    default:
      return null
  }
}
