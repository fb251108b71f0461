import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, type VerifyView } from '../api/client'
import { verificationQuery } from '../api/queries'
import { Trouble } from '../parts/Trouble'
import { When } from '../parts/When'
import { counted } from '../words'

/** Whether what is kept is what was recorded: a lead has it looked through, beside the work. */
export function StoreLook() {
  const client = useQueryClient()
  const look = useQuery(verificationQuery)
  const begin = useMutation({
    mutationFn: async () => (await api.POST('/api/v1/shop/store/verify')).data!,
    onSuccess: (begun) => client.setQueryData(verificationQuery.queryKey, begun),
  })
  const runs = look.data?.beganAt != null && look.data.endedAt === null
  return (
    <section className="sheet stack" aria-labelledby="store">
      <h2 id="store">Whether it is what was recorded</h2>
      {look.data && <Found look={look.data} />}
      <div>
        <button className="button" disabled={runs || begin.isPending} onClick={() => begin.mutate()}>
          {runs ? 'Looking…' : 'Look through it'}
        </button>
      </div>
      <Trouble error={look.error ?? begin.error} />
    </section>
  )
}

function Found({ look }: { look: VerifyView }) {
  if (!look.beganAt)
    return (
      <p className="muted">
        Each entry proves the one before it. What was changed in the files afterwards is found and named here;
        the work goes on meanwhile.
      </p>
    )
  return (
    <>
      <p role="status">
        {look.faults > 0 ? (
          <span className="verdict short">✗ {counted(look.faults, 'fault', 'faults')} found</span>
        ) : look.endedAt && !look.trouble ? (
          <span className="verdict as-planned">✓ all of it is as it was recorded</span>
        ) : (
          'nothing found so far'
        )}
        , <When at={look.beganAt} />: {look.orders} of {look.of} orders, {look.entries} entries,{' '}
        {look.pictures} pictures, {look.captures} captures
      </p>
      {look.trouble && <p className="trouble">{look.trouble}</p>}
      {look.first.length > 0 && (
        <table className="slots-table">
          <thead>
            <tr>
              <th className="num">Order</th>
              <th className="num">Entry</th>
              <th>What is wrong</th>
            </tr>
          </thead>
          <tbody>
            {look.first.map((f) => (
              <tr key={`${f.order} ${f.sequence} ${f.sentence}`}>
                <td className="num">{f.order}</td>
                <td className="num">{f.sequence}</td>
                <td>{f.sentence}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
