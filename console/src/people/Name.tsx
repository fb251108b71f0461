import { useQuery } from '@tanstack/react-query'
import { shopQuery } from '../api/queries'

/** Finds how somebody is called at the bench. Who is nobody's id is as it stands. */
export function useCalled() {
  const called = useQuery(shopQuery).data?.called ?? {}
  return (id: string) => called[id] ?? id
}

export function Name({ id }: { id: string }) {
  return <>{useCalled()(id)}</>
}
