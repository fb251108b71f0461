/** The foot of a list that goes on: how much of it is shown, and the rest. */
export function More({ list }: { list: Paged }) {
  if (!list.data || !list.hasNextPage) return null
  const shown = items(list).length
  return (
    <p className="row">
      <span className="muted small">
        {shown} of {list.data.pages[0]?.total}
      </span>
      <button className="button" disabled={list.isFetchingNextPage} onClick={() => void list.fetchNextPage()}>
        Show more
      </button>
    </p>
  )
}

type Paged = {
  data?: { pages: { items: unknown[]; total: number }[] }
  hasNextPage: boolean
  isFetchingNextPage: boolean
  fetchNextPage: () => unknown
}

/** What is shown so far, of all pages. */
export const items = <T,>(list: { data?: { pages: { items: T[] }[] } }): T[] =>
  list.data?.pages.flatMap((page) => page.items) ?? []
