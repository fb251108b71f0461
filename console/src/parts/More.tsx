/** The foot of a list that goes on: how much of it is shown, and the rest. */
export function More({ list }: { list: Paged }) {
  if (!list.data || !list.hasNextPage) return null
  const shown = items(list).length
  const all = list.data.pages[0]
  return (
    <p className="row">
      <span className="muted small">
        {shown} of {all && counted(all)}
      </span>
      <button className="button" disabled={list.isFetchingNextPage} onClick={() => void list.fetchNextPage()}>
        Show more
      </button>
    </p>
  )
}

type Counted = { total: number; atLeast: boolean }

/** How many there are; a long list is counted only so far. */
export const counted = ({ total, atLeast }: Counted) =>
  `${total.toLocaleString('en')}${atLeast ? ' or more' : ''}`

type Paged = {
  data?: { pages: (Counted & { items: unknown[] })[] }
  hasNextPage: boolean
  isFetchingNextPage: boolean
  fetchNextPage: () => unknown
}

/** What is shown so far, of all pages. */
export const items = <T,>(list: { data?: { pages: { items: T[] }[] } }): T[] =>
  list.data?.pages.flatMap((page) => page.items) ?? []
