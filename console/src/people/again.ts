import { useQueryClient } from '@tanstack/react-query'

/** Asks again for what a change has made old. */
export const useAgain = (queryKey: readonly unknown[]) => {
  const client = useQueryClient()
  return () => client.invalidateQueries({ queryKey })
}
