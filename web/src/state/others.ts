// What other windows changed, as they change it.

import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { isOwn } from '../api/insist';
import type { components } from '../api/schema';
import { refresh } from './workspace';

type ChangeMade = components['schemas']['ChangeMade'];

/** Several changes that come at once are asked for once, ms. */
const TOGETHER = 100;

/** Delay before a refused connection is tried again, ms. */
const AGAIN = 3000;

/** Shows what others saved as soon as they have, and on coming back to the window what they saved in the meantime. */
export function useOthers() {
  const client = useQueryClient();
  useEffect(() => {
    let source: EventSource | undefined;
    let last: number | undefined;
    let soon: ReturnType<typeof setTimeout> | undefined;
    let again: ReturnType<typeof setTimeout> | undefined;
    let lost = false;
    const askAgain = () => {
      clearTimeout(soon);
      soon = setTimeout(() => void refresh(client), TOGETHER);
    };
    const hear = ({ data }: MessageEvent<string>) => {
      const { count, by } = JSON.parse(data) as ChangeMade;
      const known = last === undefined || count === last || (count === last + 1 && by != null && isOwn(by));
      last = count;
      if (!known) askAgain();
    };
    // A browser keeps few connections to one address: windows that nobody sees leave theirs to the others.
    const follow = () => {
      if (document.visibilityState === 'hidden') {
        source?.close();
        source = undefined;
      } else if (!source) {
        source = new EventSource('/api/changes');
        source.onmessage = hear;
        source.onerror = () => {
          lost = true;
          // After an error status the browser never reconnects, but the error may pass.
          if (source?.readyState === EventSource.CLOSED) {
            source = undefined;
            // Perhaps this machine is no longer let in.
            void client.invalidateQueries({ queryKey: ['me'] });
            clearTimeout(again);
            again = setTimeout(follow, AGAIN);
          }
        };
        // The program is back after it was unreachable.
        source.onopen = () => {
          if (lost) askAgain();
          lost = false;
        };
      }
    };
    follow();
    document.addEventListener('visibilitychange', follow);
    return () => {
      document.removeEventListener('visibilitychange', follow);
      clearTimeout(soon);
      clearTimeout(again);
      source?.close();
    };
  }, [client]);
}
