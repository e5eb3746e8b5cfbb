// Everything saves itself. This is how: one queue a document, which never sends an old revision over a new one, asks again under the
// same key until it is answered, and stops and asks when somebody else changed the document.

import { useSyncExternalStore } from 'react';
import { leave, Problem, stay } from '../api/client';
import { mayPass, newKey } from '../api/insist';
import { withoutFaults } from './faults';
import { allLeft, forget, leaveField, recall, remember } from './unsaved';

interface Kept<E> {
  revision: number;
  entry: E;
}

export type SavingNow =
  | { state: 'saved' }
  | { state: 'saving' }
  | { state: 'unreachable'; why?: string }
  /** With the address of the screen where it can be put right. */
  | { state: 'refused'; why: string; place: string };

type AnySaver = Saver<unknown, Kept<unknown>>;

/** What is not saved, by document. */
const savers = new Map<string, AnySaver>();
/** What was left unsaved when the page was loaded, and where. */
const leftOver = new Map<string, string>();
const listeners = new Set<() => void>();
const SAVED: SavingNow = { state: 'saved' };
let now: SavingNow = SAVED;

function whatIsLeft(): SavingNow {
  const [place] = leftOver.values();
  if (place === undefined) return SAVED;
  return { state: 'refused', why: 'something was typed before this page was loaded again', place };
}

function tell() {
  const states = [...savers.values()].map((saver) => saver.now);
  const worst = ['refused', 'unreachable', 'saving'] as const;
  const next = worst.flatMap((state) => states.filter((s) => s.state === state))[0] ?? whatIsLeft();
  if (next.state !== now.state || next.state === 'refused' || next.state === 'unreachable') {
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
  leaveField();
  if (now.state === 'saved') return;
  for (const saver of savers.values()) saver.flush();
  event.preventDefault();
});

// A tablet asks nobody, and may never show a page again that it has hidden: what waits is sent on its way out.
window.addEventListener('pagehide', () => {
  leaveField();
  leave();
  for (const saver of savers.values()) saver.flush();
});
window.addEventListener('pageshow', stay);
document.addEventListener('visibilitychange', () => {
  if (document.visibilityState === 'hidden') for (const saver of savers.values()) saver.flush();
});

/** Sends what waits, and waits until it is kept or cannot be; says whether there was anything. */
export async function settle(): Promise<boolean> {
  const waiting = [...savers.values()].filter((saver) => saver.now.state === 'saving');
  await Promise.all(waiting.map((saver) => saver.settled()));
  return waiting.length > 0;
}

export interface SaverEvents<K> {
  saved: (kept: K) => void;
  /** Somebody else wrote it first: nothing more is sent until `resume`. */
  stale: () => void;
  refused: (problem: Problem | undefined) => void;
}

export interface Way<E, K> {
  /** The same entry under the same key is written once. */
  send: (entry: E, revision: number, key: string) => Promise<K>;
  /** What is kept now. */
  reload: () => Promise<K>;
}

/** How long it waits before it tries again, ms. */
export const PATIENCE = 1500;

/** How long typing must pause before it is kept: one step of undo is a burst of keys, not a key. */
const PAUSE = 500;

/** What is left of an edit that is not saved, for when its screen is opened again. */
interface Left<E> {
  entry: E;
  revision: number;
  /** Under which it was sent, where it was. */
  key?: string | undefined;
  /** Where it was edited. */
  place: string;
}

const LEFT = 'edit of ';

for (const [id, { place }] of allLeft<Left<unknown>>(LEFT)) leftOver.set(id, place);
tell();

interface Sent<E> {
  entry: E;
  key: string;
  /** Only what is right about an entry that was refused. */
  part?: boolean;
}

/** The one saver of a document, where something of it is not saved yet, also from before its screen was left. */
export function saverOf<E, K extends Kept<E>>(
  id: string,
  kept: K,
  way: Way<E, K>,
  events: SaverEvents<K>,
): Saver<E, K> {
  const busy = savers.get(id) as unknown as Saver<E, K> | undefined;
  if (!busy) return new Saver(id, kept, way, events);
  busy.attach(way, events);
  return busy;
}

let looking = false;

/** From now on nothing is saved: a guest tries things out. */
export function lookOnly(only: boolean) {
  looking = only;
}

export class Saver<E, K extends Kept<E>> {
  now: SavingNow = SAVED;
  /** What is to be sent next. */
  private next: E | undefined;
  /** What was sent and is not answered yet: the same again until it is. */
  private sent: Sent<E> | undefined;
  /** What was refused, until it is corrected. */
  private refused: { entry: E; problem: Problem } | undefined;
  private revision: number;
  /** What is kept. */
  private kept: E;
  private place = window.location.pathname;
  private running = false;
  private waiting: (() => void)[] = [];
  private pause: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly id: string,
    kept: K,
    private way: Way<E, K>,
    private events: SaverEvents<K>,
  ) {
    const left = recall<Left<E>>(LEFT + id);
    this.revision = left?.revision ?? kept.revision;
    this.kept = kept.entry;
    if (left?.key) this.sent = { entry: left.entry, key: left.key };
    else this.next = left?.entry;
  }

  /** Its screen is opened again. */
  attach(way: Way<E, K>, events: SaverEvents<K>) {
    this.way = way;
    this.events = events;
  }

  /** The newest entry that is not saved; none where everything is. */
  get unsaved(): E | undefined {
    return this.next ?? this.refused?.entry ?? this.sent?.entry;
  }

  /** Goes on with what was left, and says again what was refused of it. */
  begin() {
    if (this.refused) this.events.refused(this.refused.problem);
    else if (this.busy) void this.run();
  }

  /** True while something is not yet kept. */
  get busy() {
    return this.running || this.next !== undefined || this.sent !== undefined;
  }

  save(entry: E) {
    if (looking) return;
    this.take(entry);
    this.flush();
  }

  /** Saves once nothing more has come for a moment. */
  saveSoon(entry: E) {
    if (looking) return;
    this.take(entry);
    if (!this.running) this.become({ state: 'saving' });
    clearTimeout(this.pause);
    this.pause = setTimeout(() => this.flush(), PAUSE);
  }

  private take(entry: E) {
    this.next = entry;
    this.place = window.location.pathname;
    this.remember(entry);
  }

  private remember(entry: E, key?: string) {
    remember(LEFT + this.id, { entry, revision: this.revision, key, place: this.place } satisfies Left<E>);
  }

  private forget() {
    forget(LEFT + this.id);
    leftOver.delete(this.id);
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

  /** Gives up what the program will never take: its document is gone. */
  giveUp(why: string) {
    this.next = undefined;
    this.sent = undefined;
    this.refused = undefined;
    this.running = false;
    this.forget();
    this.become({ state: 'refused', why, place: this.place });
  }

  /** Its screen is left: what was refused is still there when it is opened again, and nothing is said of what is gone. */
  close() {
    this.flush();
    if (this.now.state === 'refused' && !this.refused) this.become(SAVED);
  }

  /** Goes on from what is kept now. */
  resume(revision: number, kept: E) {
    this.revision = revision;
    this.kept = kept;
    this.running = false;
    this.refused = undefined;
    if (this.next === undefined) this.forget();
    this.become(SAVED);
    if (this.next !== undefined) void this.run();
  }

  /** What was refused is to be sent again, over what somebody else wrote since. */
  keepOver() {
    this.next ??= this.refused?.entry;
  }

  /** Forgets what was not sent. */
  drop() {
    this.next = undefined;
    this.refused = undefined;
    this.forget();
  }

  private become(state: SavingNow) {
    this.now = state;
    if (state.state === 'saved') savers.delete(this.id);
    else savers.set(this.id, this as unknown as AnySaver);
    tell();
    if (state.state !== 'saving') for (const resolve of this.waiting.splice(0)) resolve();
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    for (;;) {
      if (!this.sent) {
        if (this.next === undefined) break;
        this.sent = { entry: this.next, key: newKey() };
        this.remember(this.sent.entry, this.sent.key);
        this.next = undefined;
        this.refused = undefined;
      }
      if (this.now.state !== 'unreachable') this.become({ state: 'saving' });
      const { sent } = this;
      try {
        this.took(await this.way.send(sent.entry, this.revision, sent.key), sent);
      } catch (error) {
        if (!(error instanceof Problem) || mayPass(error)) await this.wait(error);
        else if (error.is('done')) await this.after(sent);
        else if (error.is('stale')) return this.overtaken(sent);
        else if (error.is('unknown')) return this.gone(error);
        else this.refuse(sent, error);
      }
    }
    this.running = false;
    if (this.refused) return this.become(this.whyRefused(this.refused.problem));
    this.forget();
    this.become(SAVED);
  }

  private took(kept: K, { part }: Sent<E>) {
    this.sent = undefined;
    this.revision = kept.revision;
    this.kept = kept.entry;
    if (this.next !== undefined) this.remember(this.next);
    else if (part && this.refused) this.remember(this.refused.entry);
    if (!part) this.events.refused(undefined);
    this.events.saved(kept);
  }

  private async wait(error: unknown) {
    const why = error instanceof Problem ? { why: error.message } : {};
    this.become({ state: 'unreachable', ...why });
    await new Promise((resolve) => setTimeout(resolve, PATIENCE));
  }

  /** It was saved, and the answer lost: what is kept now is that, unless somebody has changed it since. */
  private async after(sent: Sent<E>) {
    try {
      const kept = await this.way.reload();
      if (kept.revision === this.revision + 1) return this.took(kept, sent);
      this.sent = undefined;
      this.next ??= sent.entry;
    } catch (error) {
      await this.wait(error);
    }
  }

  /** Still running: nothing is sent until `resume`. */
  private overtaken({ entry, part }: Sent<E>) {
    this.sent = undefined;
    this.next ??= (part ? this.refused?.entry : undefined) ?? entry;
    this.become({ state: 'refused', why: 'it was changed elsewhere', place: this.place });
    this.events.stale();
  }

  /** There is nothing to save it to any more. */
  private gone(problem: Problem) {
    this.events.refused(problem);
    this.giveUp(problem.message);
  }

  private whyRefused(problem: Problem): SavingNow {
    return { state: 'refused', why: problem.message, place: this.place };
  }

  /** What is wrong stays as it was; the rest is saved without it. */
  private refuse({ entry, part }: Sent<E>, problem: Problem) {
    this.sent = undefined;
    if (part) return;
    this.refused = { entry, problem };
    this.remember(entry);
    this.events.refused(problem);
    this.become(this.whyRefused(problem));
    if (this.next !== undefined) return;
    const rest = withoutFaults(entry, this.kept, problem.body.errors ?? []);
    if (rest !== undefined) this.sent = { entry: rest, key: newKey(), part: true };
  }
}
