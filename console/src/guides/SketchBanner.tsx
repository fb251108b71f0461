import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, newKey } from '../api/client'
import { useMe } from '../api/me'
import { Trouble } from '../parts/Trouble'

/** A guide in the making: what it is, and the lead's word that it is one. */
export function SketchBanner({ code }: { code: string }) {
  const client = useQueryClient()
  const me = useMe()
  const publish = useMutation({
    mutationFn: async () =>
      api.POST('/api/v1/guides/{code}/publish', { params: { path: { code }, header: newKey() } }),
    onSuccess: () => client.invalidateQueries(),
  })
  return (
    <section className="sheet stack">
      <p>
        <b className="sketch-mark">sketch</b> Written at the bench, revision by revision, by what was done.
        What it does not know, nobody was asked yet.
      </p>
      <Trouble error={publish.error} />
      {me?.isLead && (
        <div className="row">
          <button className="button" disabled={publish.isPending} onClick={() => publish.mutate()}>
            Publish it as the guide
          </button>
          <Link to="/guides/$code/edit" params={{ code }} className="button">
            Mend its words first
          </Link>
        </div>
      )}
    </section>
  )
}
