import { Link } from '@tanstack/react-router'
import { useMe } from '../api/me'
import { useTitle } from '../parts/title'
import { Audit } from './Audit'
import { Bench } from './Bench'
import { SignedIn } from './SignedIn'
import { Tablets } from './Tablets'
import { Webhooks } from './Webhooks'
import './people.css'

/** Who is at the bench, where oneself is signed in, and (for leads) who comes in. */
export function PeoplePage() {
  useTitle('People')
  const me = useMe()
  if (!me) return null
  return (
    <div className="page stack people-page">
      <h1>People</h1>
      {me.isLead && (
        <p>
          Where the data lies, its backups, and whether it is what was recorded:{' '}
          <Link to="/store">the store</Link>.
        </p>
      )}
      <Bench me={me} />
      <SignedIn me={me} />
      {me.isLead && <Tablets />}
      {me.isLead && <Webhooks />}
      {me.isLead && <Audit />}
    </div>
  )
}
