const name = 'revtal.people'
const longest = 7 * 24 * 60 * 60_000

const load = (): Record<string, number> => {
  try {
    return (JSON.parse(localStorage.getItem(name) ?? '{}') ?? {}) as Record<string, number>
  } catch {
    return {}
  }
}

/** Somebody sits here: what they have in hand is kept here from now on. */
export const sawHere = (person: string) =>
  localStorage.setItem(name, JSON.stringify({ ...load(), [person]: Date.now() }))

/** Whose hands were at this screen within a week. */
export const peopleHere = () =>
  Object.entries(load())
    .filter(([, at]) => at > Date.now() - longest)
    .map(([person]) => person)

export const forgetPeople = () => localStorage.removeItem(name)
