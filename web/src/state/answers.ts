import { type InvalidateOptions, type InvalidateQueryFilters, QueryClient } from '@tanstack/react-query';

/**
 * Answers of the program. A first answer that was on its way when something changed may be from before that: it is asked for again when it
 * is there. (One that replaces another is asked for anew at once, by the library.)
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
      // Why it failed says whoever asked for it.
      void promise?.then(again, again);
    }
    return super.invalidateQueries(filters, options);
  }
}
