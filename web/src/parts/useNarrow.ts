import { useSyncExternalStore } from 'react';

/** What `lg` begins at in the styles. */
const WIDE = '(width >= 64rem)';

/** True where a screen stands in one column: on a phone, and on a tablet held upright. */
export function useNarrow() {
  return useSyncExternalStore(
    (changed) => {
      const query = matchMedia(WIDE);
      query.addEventListener('change', changed);
      return () => query.removeEventListener('change', changed);
    },
    () => !matchMedia(WIDE).matches,
  );
}
