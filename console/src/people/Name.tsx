import { useQuery } from '@tanstack/react-query'
import type { Person } from '../api/client'
import { shopQuery } from '../api/queries'

const first = (person: Person) => person.name.split(' ')[0] ?? person.name

/** How somebody is called at the bench: by the first name, unless two have it. Who is nobody's id is as it stands. */
export function called(people: Person[], id: string) {
  const person = people.find((p) => p.id === id)
  if (!person) return id
  return people.filter((p) => first(p) === first(person)).length > 1 ? person.name : first(person)
}

/** Finds what somebody is called. */
export function useCalled() {
  const people = useQuery(shopQuery).data?.people ?? []
  return (id: string) => called(people, id)
}

export function Name({ id }: { id: string }) {
  return <>{useCalled()(id)}</>
}
