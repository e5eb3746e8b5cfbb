// A kept document while somebody edits it.

import { useEffect, useRef, useState } from 'react';
import { Problem } from '../api/client';
import { PATIENCE, Saver } from './saving';

interface Kept<E> {
  id: string;
  revision: number;
  entry: E;
}

/** What is to be kept: a value, or how it comes of what is shown then, for hands that had to wait for an answer. */
export type Change<E> = E | ((now: E) => E);

export interface Draft<E> {
  entry: E;
  /** Counts how often the entry was replaced from elsewhere: a key for fields that keep what was typed. */
  origin: number;
  /** Shows a change without keeping it yet: while a hand is still on it. */
  show: (entry: E) => void;
  /** Shows a change and keeps it. */
  change: (entry: Change<E>) => void;
  /** Shows a change and keeps it at the next pause: while somebody types. */
  type: (entry: Change<E>) => void;
  /** Why the last change was not kept. */
  problem: Problem | undefined;
  /** Set when another tab changed it first. */
  conflict: { takeTheirs: () => void; keepMine: () => void } | undefined;
}

/**
 * Edits `kept` in place. `put` writes an entry over a revision; `reload` fetches what is kept now; `saved` hears of every
 * write. What comes from elsewhere (undo, another tab) is shown as soon as nothing of ours is waiting.
 */
export function useDraft<E, K extends Kept<E>>(
  kept: K,
  put: (entry: E, revision: number) => Promise<K>,
  reload: () => Promise<K>,
  saved: (kept: K) => void,
): Draft<E> {
  const [{ entry, origin }, setShown] = useState({ entry: kept.entry, origin: 0 });
  const latest = useRef(kept.entry);
  const setEntry = (entry: E) => {
    latest.current = entry;
    setShown((old) => ({ entry, origin: old.origin }));
  };
  const replace = (entry: E) => {
    latest.current = entry;
    setShown((old) => ({ entry, origin: old.origin + 1 }));
  };
  const [problem, setProblem] = useState<Problem>();
  const [theirs, setTheirs] = useState<K>();
  const seen = useRef(kept.revision);
  const calls = useRef({ put, reload, saved });
  calls.current = { put, reload, saved };

  const saver = useRef<Saver<E, K>>(undefined);
  saver.current ??= new Saver<E, K>(kept.revision, (e, revision) => calls.current.put(e, revision), {
    saved(now) {
      seen.current = now.revision;
      calls.current.saved(now);
    },
    stale() {
      const ask = () =>
        void calls.current.reload().then(setTheirs, (error: unknown) => {
          if (error instanceof Problem) {
            setProblem(error);
            saver.current?.giveUp(error.message);
          } else setTimeout(ask, PATIENCE);
        });
      ask();
    },
    refused: setProblem,
  });

  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another state was kept
  useEffect(() => {
    if (kept.revision > seen.current && !saver.current?.busy) {
      seen.current = kept.revision;
      saver.current?.resume(kept.revision);
      replace(kept.entry);
      setProblem(undefined);
    }
  }, [kept]);

  useEffect(() => {
    saver.current?.open();
    return () => saver.current?.close();
  }, []);

  /** What is shown then; none where it came to nothing. */
  const after = (change: Change<E>): E | undefined => {
    const next = change instanceof Function ? change(latest.current) : change;
    if (change instanceof Function && next === latest.current) return undefined;
    setEntry(next);
    return next;
  };

  const settle = (mine: boolean) => {
    if (!theirs) return;
    seen.current = theirs.revision;
    if (!mine) {
      saver.current?.drop();
      replace(theirs.entry);
      calls.current.saved(theirs);
    }
    saver.current?.resume(theirs.revision);
    setTheirs(undefined);
  };

  return {
    entry,
    origin,
    show: setEntry,
    change(change) {
      const next = after(change);
      if (next) saver.current?.save(next);
    },
    type(change) {
      const next = after(change);
      if (next) saver.current?.saveSoon(next);
    },
    problem,
    conflict: theirs && { takeTheirs: () => settle(false), keepMine: () => settle(true) },
  };
}
