import { useEffect, useRef, useState } from 'react'
import { useNavigate, useParams } from '@tanstack/react-router'
import { flag } from '../parts/flag'

type Key = { key: string; does: string; act: () => void }

// A barcode wedge types on; a hand does not.
const pause = 80
const kept = 'revtal:keys'

const stored = () => {
  try {
    return localStorage.getItem(kept) !== 'off'
  } catch {
    return true
  }
}
const on = flag(stored())

/** Single keys may be in somebody's way (WCAG 2.2, 2.1.4): they can be turned off, on this screen. */
function turn(next: boolean) {
  on.set(next)
  try {
    localStorage.setItem(kept, next ? 'on' : 'off')
  } catch {
    // It holds until the page is closed.
  }
}

const isWritten = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.matches('input, textarea, select, [contenteditable]')

/** Hears single keys wherever nobody writes and nothing is open above the page. */
function useKeys(keys: Key[]) {
  const now = useRef(keys)
  useEffect(() => {
    now.current = keys
  })
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined
    const onKey = (event: KeyboardEvent) => {
      clearTimeout(timer)
      if (event.ctrlKey || event.metaKey || event.altKey || isWritten(event.target)) return
      if (document.querySelector('dialog[open]')) return
      const found = now.current.find((k) => k.key === event.key)
      if (!found) return
      event.preventDefault()
      timer = setTimeout(found.act, pause)
    }
    window.addEventListener('keydown', onKey)
    return () => {
      clearTimeout(timer)
      window.removeEventListener('keydown', onKey)
    }
  }, [])
}

/** The keys of the page that is open, and what shows them. */
export function Keys({ search, looks }: { search: () => void; looks: boolean }) {
  const map = useRef<HTMLDialogElement>(null)
  const [isOpen, setOpen] = useState(false)
  const areOn = on.use()
  const navigate = useNavigate()
  const { number } = useParams({ strict: false })
  const show = () => {
    setOpen(true)
    map.current?.showModal()
  }
  const go = (
    key: string,
    does: string,
    to: '/' | '/take-in' | '/notices' | '/parts' | '/guides' | '/invoices',
  ): Key => ({
    key,
    does,
    act: () => void navigate({ to }),
  })
  const ofOrder = (key: string, does: string, page: '' | '/plan' | '/run' | '/check'): Key[] =>
    number === undefined
      ? []
      : [{ key, does, act: () => void navigate({ to: `/orders/$number${page}`, params: { number } }) }]
  const keys: Key[] = [
    { key: '/', does: 'find an order, a serial, a guide', act: search },
    go('b', 'the board', '/'),
    ...(looks
      ? []
      : [
          go('t', 'take a machine in', '/take-in'),
          go('n', 'what concerns you', '/notices'),
          go('s', 'parts and the shelf', '/parts'),
          go('g', 'guides', '/guides'),
          go('i', 'invoices', '/invoices'),
          ...ofOrder('o', `order ${number}`, ''),
          ...ofOrder('p', `the plan of ${number}`, '/plan'),
          ...ofOrder('r', `the run of ${number}`, '/run'),
          ...ofOrder('c', `the check of ${number}`, '/check'),
        ]),
  ]
  useKeys([...(areOn ? keys : []), { key: '?', does: '', act: show }])
  return (
    <>
      <button className="icon" onClick={show} aria-label="Keys" title="Keys (?)">
        ?
      </button>
      <dialog ref={map} className="keys" aria-labelledby="keys" onClose={() => setOpen(false)}>
        {isOpen && (
          <div className="stack">
            <h2 id="keys">Keys</h2>
            <dl>
              {keys.map((k) => (
                <div key={k.key}>
                  <dt>
                    <kbd>{k.key}</kbd>
                  </dt>
                  <dd>{k.does}</dd>
                </div>
              ))}
              <div>
                <dt>
                  <kbd>?</kbd>
                </dt>
                <dd>this map</dd>
              </div>
              <div>
                <dt>
                  <kbd>Esc</kbd>
                </dt>
                <dd>let go of what is in the hand; close this</dd>
              </div>
            </dl>
            <p className="muted small">
              A scanned label opens its order; a serial is searched for. In the run a scanned step is shown.
            </p>
            <label>
              <input type="checkbox" checked={areOn} onChange={(e) => turn(e.target.checked)} /> Single keys
              do something on this screen
            </label>
            <form method="dialog">
              <button className="button">Close</button>
            </form>
          </div>
        )}
      </dialog>
    </>
  )
}
