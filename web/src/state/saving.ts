// Everything saves itself. This is how: one queue a document, which never sends an old revision over a new one, tries
// again when Warm Blend isn’t responding, and stops and asks when somebody else changed the document.

import { useSyncExternalStore } from 'react';
import { leave, Problem, stay } from '../api/client';

interface Revised {
  revision: number;
}

export type SavingNow =
  | { state: 'saved' }
  | { state: 'saving' }
  | { state: 'unreachable' }
  | { state: 'refused'; why: string };

const savers = new Set<Saver<unknown, Revised>>();
const listeners = new Set<() => void>();
const SAVED: SavingNow = { state: 'saved' };
let now: SavingNow = SAVED;

function tell() {
  const states = [...savers].map((saver) => saver.now);
  const worst = ['refused', 'unreachable', 'saving'] as const;
  const next = worst.flatMap((state) => states.filter((s) => s.state === state))[0] ?? SAVED;
  if (next.state !== now.state || next.state === 'refused') {
    now = next;
    for (const listener of listeners) listener();
  }
}

/** How saving stands, over all documents. */
export function useSaving(): SavingNow {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => now,
  );
}

// A page that goes away takes what is not yet sent with it: the browser asks first, where it asks at all.
window.addEventListener('beforeunload', (event) => {
  if (now.state === 'saved') return;
  for (const saver of savers) saver.flush();
  event.preventDefault();
});

// A tablet asks nobody, and may never show a page again that it has hidden: what waits is sent on its way out.
window.addEventListener('pagehide', () => {
  leave();
  for (const saver of savers) saver.flush();
});
window.addEventListener('pageshow', stay);
document.addEventListener('visibilitychange', () => {
  if (document.visibilityState === 'hidden') for (const saver of savers) saver.flush();
});

/** Sends what waits, and waits until it is kept or cannot be; says whether there was anything. */
export async function settle(): Promise<boolean> {
  const waiting = [...savers].filter((saver) => saver.now.state === 'saving');
  await Promise.all(waiting.map((saver) => saver.settled()));
  return waiting.length > 0;
}

export interface SaverEvents<K> {
  saved: (kept: K) => void;
  /** Somebody else wrote it first: nothing more is sent until `resume`. */
  stale: () => void;
  refused: (problem: Problem | undefined) => void;
}

/** How long it waits before it tries again, ms. */
export const PATIENCE = 1500;

/** How long typing must pause before it is kept: one step of undo is a burst of keys, not a key. */
const PAUSE = 500;

export class Saver<E, K extends Revised> {
  now: SavingNow = SAVED;
  private next: E | undefined;
  private running = false;
  private closed = false;
  private waiting: (() => void)[] = [];
  private pause: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private revision: number,
    private readonly send: (entry: E, revision: number) => Promise<K>,
    private readonly events: SaverEvents<K>,
  ) {}

  /** True while something is not yet kept. */
  get busy() {
    return this.running || this.next !== undefined;
  }

  save(entry: E) {
    this.next = entry;
    this.flush();
  }

  /** Saves once nothing more has come for a moment. */
  saveSoon(entry: E) {
    this.next = entry;
    if (!this.running) this.become({ state: 'saving' });
    clearTimeout(this.pause);
    this.pause = setTimeout(() => this.flush(), PAUSE);
  }

  /** Saves what is waiting, now. */
  flush() {
    clearTimeout(this.pause);
    if (this.next !== undefined) void this.run();
  }

  /** Sends what waits; done when it is kept, or cannot be for now. */
  settled(): Promise<void> {
    this.flush();
    if (this.now.state !== 'saving') return Promise.resolve();
    return new Promise((resolve) => this.waiting.push(resolve));
  }

  /** Somebody edits it. */
  open() {
    this.closed = false;
  }

  /** Nothing more comes: what could be sent is sent, and what was refused is given up. */
  close() {
    this.closed = true;
    this.flush();
    // Nor will it ever go on where somebody else wrote first and nobody is left to say whose counts.
    if (!this.running || this.now.state === 'refused') this.become(SAVED);
  }

  /** Gives up what the program will never take: its document is gone. */
  giveUp(why: string) {
    this.next = undefined;
    this.running = false;
    this.become({ state: 'refused', why });
  }

  /** Goes on from the revision that is kept now. */
  resume(revision: number) {
    this.revision = revision;
    this.running = false;
    this.become(SAVED);
    if (this.next !== undefined) void this.run();
  }

  /** Forgets what was not sent. */
  drop() {
    this.next = undefined;
  }

  private become(state: SavingNow) {
    this.now = state;
    const self = this as unknown as Saver<unknown, Revised>;
    if (state.state === 'saved' || (state.state === 'refused' && this.closed)) savers.delete(self);
    else savers.add(self);
    tell();
    if (state.state !== 'saving') for (const resolve of this.waiting.splice(0)) resolve();
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    while (this.next !== undefined) {
      const entry = this.next;
      this.next = undefined;
      this.become({ state: 'saving' });
      try {
        const kept = await this.send(entry, this.revision);
        this.revision = kept.revision;
        this.events.refused(undefined);
        this.events.saved(kept);
      } catch (error) {
        if (error instanceof Problem && error.is('stale')) {
          this.next ??= entry;
          this.become({ state: 'refused', why: 'changed elsewhere' });
          this.events.stale();
          return; // still running: nothing is sent until resume
        }
        if (error instanceof Problem) {
          this.events.refused(error);
          this.become({ state: 'refused', why: error.message });
          if (this.next === undefined) break;
        } else {
          this.next ??= entry;
          this.become({ state: 'unreachable' });
          await new Promise((resolve) => setTimeout(resolve, PATIENCE));
        }
      }
    }
    this.running = false;
    if (this.now.state !== 'refused') this.become(SAVED);
  }
}
