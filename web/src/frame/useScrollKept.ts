import { useEffect } from 'react';
import { recall, remember } from '../state/unsaved';

/** How often, and how long apart, is looked whether a screen is long enough again, ms. */
const TRIES = 40;
const APART = 75;

/** The part of a screen that is scrolled, by the name that it has. */
const nameOf = (part: Element) => (part.matches('main') ? 'main' : part.getAttribute('aria-label'));

const found = (name: string) =>
  name === 'main'
    ? document.querySelector('main')
    : document.querySelector(`main [aria-label="${CSS.escape(name)}"]`);

/** Where each screen is scrolled to is kept: the rail, Back and a reload lead back to it. */
export function useScrollKept(path: string) {
  // What opens beside the shelf does not move it.
  const screen = path.startsWith('/shelf') ? '/shelf' : path;
  useEffect(() => {
    const main = document.querySelector('main');
    if (!main) return;
    const name = `scroll ${screen}`;
    const places = recall<Record<string, number>>(name) ?? {};
    let left = Object.entries(places).filter(([, top]) => top > 0);
    let timer: ReturnType<typeof setTimeout> | undefined;
    const restore = (tries: number) => {
      left = left.filter(([part, top]) => {
        const at = found(part);
        if (!at || at.scrollHeight < top + at.clientHeight) return true;
        at.scrollTop = top;
        return false;
      });
      if (left.length > 0 && tries < TRIES) timer = setTimeout(() => restore(tries + 1), APART);
    };
    if (!places.main) main.scrollTop = 0;
    restore(0);
    const note = ({ target }: Event) => {
      const part = target instanceof Element && nameOf(target);
      if (!part || left.some(([waiting]) => waiting === part)) return;
      places[part] = (target as Element).scrollTop;
      remember(name, places);
    };
    // Whoever scrolls meanwhile goes elsewhere.
    const giveUp = () => {
      left = [];
      clearTimeout(timer);
    };
    main.addEventListener('scroll', note, { capture: true, passive: true });
    main.addEventListener('wheel', giveUp, { passive: true });
    main.addEventListener('touchmove', giveUp, { passive: true });
    return () => {
      clearTimeout(timer);
      main.removeEventListener('scroll', note, { capture: true });
      main.removeEventListener('wheel', giveUp);
      main.removeEventListener('touchmove', giveUp);
    };
  }, [screen]);
}
