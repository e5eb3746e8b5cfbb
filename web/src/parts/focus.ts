// Where the cursor goes when the place it was in is gone.

import { useEffect } from 'react';

/** The parts of a screen that may take the cursor when what had it is gone, the innermost first. */
const REGIONS = 'li, section, aside, main, [role="dialog"]';

function take(place: HTMLElement) {
  if (!place.matches('a[href], button, input, select, textarea, [tabindex]'))
    place.setAttribute('tabindex', '-1');
  place.focus({ preventScroll: true });
}

/** Back to where somebody came from, or to the screen where that is gone. */
export function goBackTo(place: Element | null) {
  const there = place instanceof HTMLElement && place.isConnected && place !== document.body;
  const to = there ? place : document.querySelector<HTMLElement>('main');
  if (to) take(to);
}

/** Keeps the cursor near where it was when what had it is taken away: a row that is deleted, a button that has done its work. */
export function useFocusKept() {
  useEffect(() => {
    let around: HTMLElement[] = [];
    let last: Element | null = null;
    const note = (event: FocusEvent) => {
      last = event.target as Element;
      around = [];
      for (let at = last.parentElement; at; at = at.parentElement) if (at.matches(REGIONS)) around.push(at);
    };
    const taken = new MutationObserver(() => {
      if (!last || last.isConnected || document.activeElement !== document.body) return;
      last = null;
      const left = around.find((region) => region.isConnected) ?? document.querySelector<HTMLElement>('main');
      // What comes in its place may take the cursor itself.
      requestAnimationFrame(() => {
        if (left && document.activeElement === document.body) take(left);
      });
    });
    document.addEventListener('focusin', note);
    taken.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener('focusin', note);
      taken.disconnect();
    };
  }, []);
}
