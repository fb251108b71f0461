import {
  QueryClient,
  type InvalidateOptions,
  type InvalidateQueryFilters,
  type Query,
} from '@tanstack/react-query'

const isFirst = ({ state }: Query) => state.data === undefined && state.fetchStatus !== 'idle'

/**
 * Asks again for whatever is not so any more, also for what is on its way for the first time: that answer may have been
 * written before the change. It is waited for, so that a burst of changes does not keep a page from ever being shown.
 */
export class FreshClient extends QueryClient {
  private readonly waiting = new Map<string, Promise<void>>()

  override async invalidateQueries<TKey extends readonly unknown[]>(
    filters?: InvalidateQueryFilters<TKey>,
    options?: InvalidateOptions,
  ) {
    const first = this.getQueryCache().findAll(filters).filter(isFirst)
    await Promise.all([
      super.invalidateQueries(filters, options),
      ...first.map((query) => this.waiting.get(query.queryHash) ?? this.askAgain(query)),
    ])
  }

  private askAgain(query: Query) {
    const again = (query.promise ?? Promise.resolve())
      .catch(() => {})
      .then(() => {
        this.waiting.delete(query.queryHash)
        return super.invalidateQueries({ queryKey: query.queryKey, exact: true })
      })
    this.waiting.set(query.queryHash, again)
    return again
  }
}
