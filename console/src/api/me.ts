import { useQuery } from '@tanstack/react-query'
import { rememberedPerson } from './client'
import { shopQuery } from './queries'

/** Who sits here, as the shop knows that person; undefined before anybody chose. */
export const useMe = () => useQuery(shopQuery).data?.people.find((p) => p.id === rememberedPerson())
