import { useState } from 'react'

/** State that survives a reload of the tablet; forgotten once it is back at its beginning. */
export function useStored<T>(key: string, begin: T): [T, (value: T) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      return JSON.parse(localStorage.getItem(key) ?? 'null') ?? begin
    } catch {
      return begin
    }
  })
  return [
    value,
    (next) => {
      if (next === begin) localStorage.removeItem(key)
      else localStorage.setItem(key, JSON.stringify(next))
      setValue(next)
    },
  ]
}
