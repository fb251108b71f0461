import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api } from '../api/client'
import { Trouble } from '../parts/Trouble'

/** A link by which one's calendar reads what is promised, watched, rebuilt and taken up again when. */
export function CalendarLink() {
  const client = useQueryClient()
  const make = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/session/calendar')).data!,
    onSuccess: () => client.invalidateQueries({ queryKey: ['sessions'] }),
  })
  return (
    <>
      <div className="row">
        <span>The bench’s dates in your calendar</span>
        <button className="button" disabled={make.isPending} onClick={() => make.mutate()}>
          Make a link
        </button>
        <a className="button" href="/api/v1/board/dates.ics" download>
          As a file
        </a>
      </div>
      {make.data && (
        <p className="told" role="status">
          <code className="link-once">{make.data.link}</code>
          <br />
          <span className="muted small">
            Have your calendar subscribe to it. It is not shown again, and ends above like a sign-in.
            {make.data.hereOnly &&
              ' The shop has no address of its own: other machines may not reach this one.'}
          </span>
        </p>
      )}
      <Trouble error={make.error} />
    </>
  )
}
