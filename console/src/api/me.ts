import { queryOptions, useQuery } from '@tanstack/react-query'
import { api, seat } from './client'

/** Who is signed in here; asked for once, and again when an answer shows that it has changed. */
export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    const session = (await api.GET('/api/v1/session')).data!
    seat(session.person?.id ?? null)
    return session
  },
  staleTime: Infinity,
})

/** Who sits here; undefined before that is known. */
export const useMe = () => useQuery(sessionQuery).data?.person ?? undefined
