import { useQuery } from '@tanstack/react-query'
import { shopQuery } from '../api/queries'

/** The id by which a field offers what the shop often tries. */
export const oftenTried = 'often-tried'

/** What the shop often tries, once on a page: fields name it as their list, and anything else may be typed. */
export function OftenTried() {
  const trials = useQuery(shopQuery).data?.trials ?? []
  return (
    <datalist id={oftenTried}>
      {trials.map((t) => (
        <option key={t} value={t} />
      ))}
    </datalist>
  )
}
