// A kept document while somebody edits it.

import { useEffect, useRef, useState } from 'react';
import { Problem } from '../api/client';
import { mayPass } from '../api/insist';
import { slidesByKeys } from './hand';
import { PATIENCE, type Saver, saverOf } from './saving';

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
 * Edits `kept` in place. `put` writes an entry over a revision, under a key; `reload` fetches what is kept now; `saved` hears of every
 * write. What comes from elsewhere (undo, another tab) is shown as soon as nothing of ours is waiting.
 */
export function useDraft<E, K extends Kept<E>>(
  kept: K,
  put: (entry: E, revision: number, key: string) => Promise<K>,
  reload: () => Promise<K>,
  saved: (kept: K) => void,
): Draft<E> {
  const [problem, setProblem] = useState<Problem>();
  const [theirs, setTheirs] = useState<K>();
  const seen = useRef(kept.revision);
  const calls = useRef({ put, reload, saved });
  calls.current = { put, reload, saved };

  const saver = useRef<Saver<E, K>>(undefined);
  saver.current ??= saverOf<E, K>(
    kept.id,
    kept,
    {
      send: (e, revision, key) => calls.current.put(e, revision, key),
      reload: () => calls.current.reload(),
    },
    {
      saved(now) {
        seen.current = now.revision;
        calls.current.saved(now);
      },
      stale() {
        const ask = () =>
          void calls.current.reload().then(setTheirs, (error: unknown) => {
            if (error instanceof Problem && !mayPass(error)) {
              setProblem(error);
              saver.current?.giveUp(error.message);
            } else setTimeout(ask, PATIENCE);
          });
        ask();
      },
      refused: setProblem,
    },
  );

  const [{ entry, origin }, setShown] = useState(() => ({
    entry: saver.current?.unsaved ?? kept.entry,
    origin: 0,
  }));
  const latest = useRef(entry);
  const setEntry = (entry: E) => {
    latest.current = entry;
    setShown((old) => ({ entry, origin: old.origin }));
  };
  const replace = (entry: E) => {
    latest.current = entry;
    setShown((old) => ({ entry, origin: old.origin + 1 }));
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another state was kept
  useEffect(() => {
    if (kept.revision <= seen.current || !saver.current || saver.current.busy) return;
    // What was refused here waits to be corrected: who typed it says whose counts.
    if (saver.current.unsaved !== undefined) return setTheirs(kept);
    seen.current = kept.revision;
    saver.current.resume(kept.revision, kept.entry);
    replace(kept.entry);
    setProblem(undefined);
  }, [kept]);

  useEffect(() => {
    saver.current?.begin();
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
      setProblem(undefined);
      calls.current.saved(theirs);
    } else saver.current?.keepOver();
    saver.current?.resume(theirs.revision, theirs.entry);
    setTheirs(undefined);
  };

  return {
    entry,
    origin,
    show: setEntry,
    change(change) {
      const next = after(change);
      if (!next) return;
      if (slidesByKeys()) saver.current?.saveSoon(next);
      else saver.current?.save(next);
    },
    type(change) {
      const next = after(change);
      if (next) saver.current?.saveSoon(next);
    },
    problem,
    conflict: theirs && { takeTheirs: () => settle(false), keepMine: () => settle(true) },
  };
}
