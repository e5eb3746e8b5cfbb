// Where the cursor goes when the place it was in is gone.

import { useEffect } from 'react';

/** The parts of a screen that may take the cursor when what had it is gone, the innermost first. */
const REGIONS = 'li, section, aside, main, [role="dialog"]';

function take(place: HTMLElement) {
  if (!place.matches('a[href], button, input, select, textarea, [tabindex]'))
    place.setAttribute('tabindex', '-1');
  place.focus({ preventScroll: true });
}

/** How long is waited for what had the cursor to take it again, ms. */
const PATIENCE = 3000;

const usable = (place: Element | null): place is HTMLElement =>
  place instanceof HTMLElement && place.isConnected && place !== document.body && !place.matches(':disabled');

const nameOf = (place: Element) => place.getAttribute('aria-label') ?? place.textContent?.trim() ?? '';

/** The one that stands in its place now: drawn anew under the same name. */
function successor(place: Element): HTMLElement | undefined {
  const name = nameOf(place);
  const alike = [...document.querySelectorAll<HTMLElement>(place.tagName)];
  return name ? alike.find((one) => nameOf(one) === name && usable(one)) : undefined;
}

/**
 * Back to where somebody came from: to it, to what has taken its place, or to the screen. What is disabled while it is busy is waited
 * for, unless somebody goes elsewhere meanwhile.
 */
export function goBackTo(place: Element | null) {
  if (!place || place === document.body) return takeMain();
  if (usable(place)) return take(place);
  if (place.isConnected) return void whenUsable(place, PATIENCE);
  const next = successor(place);
  if (next) take(next);
  else takeMain();
}

function takeMain() {
  const main = document.querySelector<HTMLElement>('main');
  if (main) take(main);
}

function whenUsable(place: Element, left: number) {
  const elsewhere = document.activeElement !== document.body && document.activeElement !== place;
  if (elsewhere || left <= 0) return;
  if (usable(place)) take(place);
  else setTimeout(() => (place.isConnected ? whenUsable(place, left - 50) : goBackTo(place)), 50);
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
      if (!last || document.activeElement !== document.body) return;
      // A button that is busy lets go of the cursor and takes it again.
      if (last.isConnected) {
        if (last.matches(':disabled')) {
          const busy = last;
          last = null;
          whenUsable(busy, PATIENCE);
        }
        return;
      }
      last = null;
      const left = around.find((region) => region.isConnected) ?? document.querySelector<HTMLElement>('main');
      // What comes in its place may take the cursor itself.
      requestAnimationFrame(() => {
        if (left && document.activeElement === document.body) take(left);
      });
    });
    document.addEventListener('focusin', note);
    taken.observe(document.body, { childList: true, subtree: true, attributeFilter: ['disabled'] });
    return () => {
      document.removeEventListener('focusin', note);
      taken.disconnect();
    };
  }, []);
}
