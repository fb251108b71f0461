import type { Offer } from '../api/client'

/** A customer's link: it is shown once, and kept nowhere. */
export function ShownLink({ offer }: { offer: Offer }) {
  return (
    <>
      <code className="link-once">{offer.link}</code>
      {offer.whereYouAre && (
        <p className="muted small">
          The shop has no address for customers, so this one is yours; start the service with --shop:url to
          change that.
        </p>
      )}
    </>
  )
}
