import { type InvalidateOptions, type InvalidateQueryFilters, QueryClient } from '@tanstack/react-query';

/**
 * The cache of answers. A request that is still running when something changes may return what was true before the change. The library
 * restarts such a request only if there is an earlier answer to replace; a first one is repeated here as soon as it has come back.
 */
export class Answers extends QueryClient {
  override invalidateQueries<Key extends readonly unknown[]>(
    filters?: InvalidateQueryFilters<Key>,
    options?: InvalidateOptions,
  ): Promise<void> {
    const first = this.getQueryCache()
      .findAll(filters as InvalidateQueryFilters)
      .filter(({ state }) => state.data === undefined && state.fetchStatus === 'fetching');
    for (const { promise, queryKey } of first) {
      const again = () => super.invalidateQueries({ ...filters, queryKey, exact: true });
      // Whoever made the request reports its error.
      void promise?.then(again, again);
    }
    return super.invalidateQueries(filters, options);
  }
}
