import { useSyncExternalStore } from 'react';

/** What `lg` begins at in the styles. */
const WIDE = '(width >= 64rem)';

function subscribe(changed: () => void) {
  const query = matchMedia(WIDE);
  query.addEventListener('change', changed);
  return () => query.removeEventListener('change', changed);
}

/** True where a screen stands in one column: on a phone, and on a tablet held upright. */
export function useNarrow() {
  return useSyncExternalStore(subscribe, () => !matchMedia(WIDE).matches);
}
