import { useEffect, useRef } from 'react'

// A barcode wedge types far faster than a hand and ends with Enter.
const fastest = 60
const shortest = 4

/** The order that a code on a sheet or on a bag belongs to. */
export function scannedOrder(text: string): string | undefined {
  const code = /^revtal:(?:order:(\d+)|bag:(\d+)-.+)$/.exec(text)
  return code?.[1] ?? code?.[2]
}

/** Hears a barcode wedge wherever the focus is, as long as nobody types into a field that wants the keys itself. */
export function useScan(heard: (text: string) => void) {
  const listener = useRef(heard)
  useEffect(() => {
    listener.current = heard
  })
  useEffect(() => {
    let text = ''
    let last = 0
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLElement && event.target.matches('input, textarea, select')) return
      if (event.timeStamp - last > fastest) text = ''
      last = event.timeStamp
      if (event.key === 'Enter') {
        if (text.length >= shortest) {
          // Not for the button that happens to have the focus.
          event.preventDefault()
          event.stopPropagation()
          listener.current(text)
        }
        text = ''
      } else if (event.key.length === 1) text += event.key
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [])
}
