// What was typed and is not saved: it outlives the screen and a reload of the page, for as long as its tab is open.

import { useCallback, useRef, useSyncExternalStore } from 'react';

const PREFIX = 'warm-blend unsaved ';

/** What was left under a name. */
export function recall<T>(name: string): T | undefined {
  try {
    const text = sessionStorage.getItem(PREFIX + name);
    return text === null ? undefined : (JSON.parse(text) as T);
  } catch {
    return undefined;
  }
}

export function remember(name: string, what: unknown) {
  if (what === undefined) return forget(name);
  try {
    sessionStorage.setItem(PREFIX + name, JSON.stringify(what));
  } catch {
    // No room or none allowed: then it lasts only as long as the screen.
  }
}

export function forget(name: string) {
  try {
    sessionStorage.removeItem(PREFIX + name);
  } catch {
    // Nothing was left there either.
  }
}

/** All that was left under names that begin so, by the rest of the name. */
export function allLeft<T>(prefix: string): [string, T][] {
  try {
    return Object.keys(sessionStorage)
      .filter((key) => key.startsWith(PREFIX + prefix))
      .flatMap((key) => {
        const name = key.slice(PREFIX.length);
        const left = recall<T>(name);
        return left === undefined ? [] : [[name.slice(prefix.length), left] as [string, T]];
      });
  } catch {
    return [];
  }
}

const shown = new Map<string, unknown>();
const listeners = new Set<() => void>();

function show(name: string, value: unknown) {
  shown.set(name, value);
  for (const listener of listeners) listener();
}

const listen = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/**
 * A state of a form that is not sent yet, with how to change it and how to empty the form: it is there again after leaving the screen,
 * until it is sent or given up, and wherever the same form is shown. A change that comes late, after an upload say, is given as a function
 * of what the form then holds.
 */
export function useUnsent<T>(name: string, empty: T): [T, (next: T | ((now: T) => T)) => void, () => void] {
  const blank = useRef(empty).current;
  const now = useCallback(() => {
    if (!shown.has(name)) shown.set(name, recall<T>(name) ?? blank);
    return shown.get(name) as T;
  }, [name, blank]);
  const value = useSyncExternalStore(listen, now);
  const set = useCallback(
    (change: T | ((now: T) => T)) => {
      const next = change instanceof Function ? change(now()) : change;
      remember(name, next);
      show(name, next);
    },
    [name, now],
  );
  const clear = useCallback(() => {
    forget(name);
    show(name, blank);
  }, [name, blank]);
  return [value, set, clear];
}

/** Where one was on a screen: it is the same on coming back, also after a reload. */
export function usePlace<T>(name: string, first: T) {
  const [place, set] = useUnsent(`place ${name}`, first);
  return [place, set] as const;
}

/** The field at hand takes what was typed into it, as if it had been left: the screen is about to go. */
export function leaveField() {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
}

// Escape closes what holds a field, and Back the screen, without the field being left first.
window.addEventListener(
  'keydown',
  ({ key, target }) => {
    if (key === 'Escape' && target instanceof Element && target.closest('[role=dialog]')) {
      if (target.matches('input, textarea')) leaveField();
    }
  },
  { capture: true },
);
window.addEventListener('popstate', leaveField);
