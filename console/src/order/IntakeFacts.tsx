import { Link } from '@tanstack/react-router'
import type { OrderView } from '../api/client'

/** What was written down over the counter. */
export function IntakeFacts({ order }: { order: OrderView }) {
  const i = order.intake
  const facts: [string, string | null][] = [
    ['complaint', i.complaint],
    ['goal', i.goal],
    ['contact', i.contact],
    ['serial', i.serial],
    ['with it', i.accessories],
    ['condition', i.condition],
    ['backup', i.backup],
    [
      'warranty seal',
      { 'no-seal': 'none', given: 'may be broken', refused: 'must stay whole' }[i.sealConsent],
    ],
    ['boot drive', order.copy && `copy ${order.copy.copy}: ${order.copy.text}`],
    ['build', order.variant],
    ['tell apart', order.model.tellApart],
  ]
  return (
    <dl className="facts">
      {facts.map(
        ([name, value]) =>
          value && (
            <div key={name} className="fact">
              <dt>{name}</dt>
              <dd className={name === 'serial' ? 'mono' : undefined}>{value}</dd>
            </div>
          ),
      )}
      <div className="fact">
        <dt>guide</dt>
        <dd>
          <Link to="/guides/$code" params={{ code: order.model.code }}>
            {order.model.code}
          </Link>{' '}
          revision {order.revision}
        </dd>
      </div>
    </dl>
  )
}
