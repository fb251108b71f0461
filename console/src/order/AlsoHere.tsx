import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, newId } from '../api/client'
import { hereQuery, tellHere, tellNobody } from '../api/here'
import { useMe } from '../api/me'
import { shopQuery } from '../api/queries'

// Well within the 40 s after which the service takes the page for closed.
const again = 15_000
const typesFor = 5_000

/** Says that this page is open, and whether somebody writes in it. */
function useSayHere(order: number, says: boolean) {
  const client = useQueryClient()
  useEffect(() => {
    if (!says) return
    let screen = newId()
    let types = false
    let quiet: ReturnType<typeof setTimeout> | undefined
    const tell = async (doing: 'looks' | 'types' | 'leaves') => {
      const params = { path: { number: order } }
      const request = { params, body: { screen, doing }, keepalive: doing === 'leaves' }
      try {
        const { data } = await api.PUT('/api/v1/orders/{number}/here', request)
        if (doing !== 'leaves') tellHere(client, data!)
      } catch {
        // Without a network nobody is told, and nobody is here but oneself.
        tellNobody(client, order)
      }
    }
    const say = () => void tell(types ? 'types' : 'looks')
    const set = (next: boolean) => {
      if (types === next) return
      types = next
      say()
    }
    const onInput = () => {
      clearTimeout(quiet)
      quiet = setTimeout(() => set(false), typesFor)
      set(true)
    }
    // Whoever left is gone: a page that is brought back is another.
    const leave = () => {
      void tell('leaves')
      screen = newId()
    }
    say()
    const timer = setInterval(say, again)
    // Who came before this page heard of changes is in the answer.
    addEventListener('revtal:hears', say)
    addEventListener('input', onInput)
    addEventListener('pagehide', leave)
    return () => {
      clearInterval(timer)
      clearTimeout(quiet)
      removeEventListener('revtal:hears', say)
      removeEventListener('input', onInput)
      removeEventListener('pagehide', leave)
      leave()
    }
  }, [client, order, says])
}

/** Who else has this order open, and who writes in it. */
export function AlsoHere({ order }: { order: number }) {
  const me = useMe()
  useSayHere(order, !!me && me.role !== 'wall')
  const people = useQuery(shopQuery).data?.people ?? []
  const here = useQuery(hereQuery(order)).data
  const others = here?.people.filter((p) => p.person !== me?.id) ?? []
  return (
    <span className="also-here small" role="status">
      {others.map(({ person, types }) => (
        <span key={person} className={types ? 'types' : ''}>
          {people.find((p) => p.id === person)?.name ?? person} {types ? 'writes here' : 'is here too'}
        </span>
      ))}
    </span>
  )
}
