import { useEffect } from 'react'

/** Names the page in the browser's tab, as long as it is shown; many orders may be open side by side. */
export function useTitle(text: string | undefined) {
  useEffect(() => {
    document.title = text ? `${text} · Revtal` : 'Revtal'
  }, [text])
}
