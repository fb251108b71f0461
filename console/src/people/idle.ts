import { useEffect, useRef } from 'react'

const touches = ['pointerdown', 'keydown', 'wheel', 'touchmove'] as const
const look = 5_000

/** Acts once nobody has touched the screen for so many minutes; a tablet that slept through them acts when it wakes. */
export function useIdle(minutes: number, then: () => void) {
  const act = useRef(then)
  useEffect(() => {
    act.current = then
  })
  useEffect(() => {
    let last = Date.now()
    const touch = () => {
      // The touch that wakes a tablet comes too late.
      if (Date.now() - last < minutes * 60_000) last = Date.now()
    }
    const timer = setInterval(() => {
      if (Date.now() - last < minutes * 60_000) return
      last = Date.now()
      act.current()
    }, look)
    for (const kind of touches) window.addEventListener(kind, touch, { capture: true, passive: true })
    return () => {
      clearInterval(timer)
      for (const kind of touches) window.removeEventListener(kind, touch, true)
    }
  }, [minutes])
}
