import { useEffect, useRef } from 'react'

// A barcode wedge types far faster than a hand and ends with Enter.
const fastest = 60
const shortest = 4

/** The order that a code on a sheet or on a bag belongs to. */
export function scannedOrder(text: string): string | undefined {
  const code = /^revtal:(?:order:(\d+)|bag:(\d+)-.+)$/.exec(text)
  return code?.[1] ?? code?.[2]
}

// What stands on a badge opens: it is told to nobody but the tablet, and left standing in no field.
const badge = /revtal:badge:[0-9a-f]+$/i

/** Hears a badge, also where it was scanned into a field. */
export function useBadge(heard: (code: string) => void) {
  const listener = useRef(heard)
  useEffect(() => {
    listener.current = heard
  })
  useScanned(
    (text) => {
      const code = badge.exec(text)?.[0]
      if (code) listener.current(code.toLowerCase())
      return code !== undefined
    },
    (field) => {
      const code = badge.exec(field.value)?.[0]
      if (!code) return false
      write(field, field.value.slice(0, -code.length))
      listener.current(code.toLowerCase())
      return true
    },
  )
}

// As if it had been typed: whoever keeps the field's text hears of it.
function write(field: HTMLInputElement | HTMLTextAreaElement, text: string) {
  const kind = field instanceof HTMLInputElement ? HTMLInputElement : HTMLTextAreaElement
  Object.getOwnPropertyDescriptor(kind.prototype, 'value')?.set?.call(field, text)
  field.dispatchEvent(new Event('input', { bubbles: true }))
}

/** Hears a barcode wedge wherever the focus is, as long as nobody types into a field that wants the keys itself. */
export function useScan(heard: (text: string) => void) {
  const listener = useRef(heard)
  useEffect(() => {
    listener.current = heard
  })
  useScanned((text) => {
    if (!badge.test(text)) listener.current(text)
    return true
  })
}

/**
 * @param heard Whether it took what was scanned.
 * @param inField Whether it took what stands in a field at Enter.
 */
function useScanned(
  heard: (text: string) => boolean,
  inField?: (field: HTMLInputElement | HTMLTextAreaElement) => boolean,
) {
  const listener = useRef({ heard, inField })
  useEffect(() => {
    listener.current = { heard, inField }
  })
  useEffect(() => {
    let text = ''
    let last = 0
    const onKey = (event: KeyboardEvent) => {
      const field = event.target
      if (field instanceof HTMLElement && field.matches('input, textarea, select')) {
        const written = field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement
        if (event.key === 'Enter' && written && listener.current.inField?.(field)) {
          event.preventDefault()
          event.stopPropagation()
        }
        return
      }
      if (event.timeStamp - last > fastest) text = ''
      last = event.timeStamp
      if (event.key === 'Enter') {
        if (text.length >= shortest && listener.current.heard(text)) {
          // Not for the button that happens to have the focus.
          event.preventDefault()
          event.stopPropagation()
        }
        text = ''
      } else if (event.key.length === 1) text += event.key
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [])
}
