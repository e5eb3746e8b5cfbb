import { Armchair, BookOpen, ListChecks, PaintBucket, PanelsTopLeft } from 'lucide-react';
import { type RefObject, useEffect, useRef } from 'react';
import { useLocation } from 'react-router';
import { ShelfIcon } from './ShelfIcon';

/** The screens, in the order of work; `lit` where the light and the state change what is seen. */
export const SCREENS = [
  { to: '/piece', name: 'Piece', icon: Armchair, lit: true },
  { to: '/shelf', name: 'Shelf', icon: ShelfIcon, lit: true },
  { to: '/pot', name: 'Pot', icon: PaintBucket, lit: true },
  { to: '/board', name: 'Board', icon: PanelsTopLeft, lit: true },
  { to: '/run-sheet', name: 'Run sheet', icon: ListChecks, lit: false },
  { to: '/log', name: 'Log', icon: BookOpen, lit: true },
];

/** Pages that the rail does not lead to. */
const BESIDE = [
  { to: '/piece/photo', name: 'Colours from a photo' },
  { to: '/piece/record', name: 'Record of the piece' },
  { to: '/piece/sheet', name: 'Client sheet' },
  { to: '/piece/touch-up', name: 'Touch-up' },
  { to: '/piece/template', name: 'Template' },
  { to: '/label', name: 'Pot label' },
  { to: '/jars', name: 'Jars' },
  { to: '/backups', name: 'Backups' },
  { to: '/network', name: 'Network' },
  { to: '/practice', name: 'Practice' },
  { to: '/quotes', name: 'Quotes' },
  { to: '/about', name: 'About' },
];

const PLACES = 'places';

/** Whether the light and the state change what is seen at an address. */
export const isLit = (path: string) => screenAt(path)?.lit ?? false;

const screenAt = (path: string) => SCREENS.find(({ to }) => path === to || path.startsWith(`${to}/`));

function remembered(): Record<string, string> {
  try {
    return JSON.parse(sessionStorage.getItem(PLACES) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
}

/** Who goes to another screen, or has followed what is no longer there, is at the beginning of the new one. */
export function useArrival(screen: RefObject<HTMLElement | null>) {
  const { pathname } = useLocation();
  const before = useRef(pathname);
  useEffect(() => {
    const [from, to] = [before.current, pathname].map((path) => screenAt(path)?.to ?? path);
    before.current = pathname;
    const lost = document.activeElement === null || document.activeElement === document.body;
    const there = screen.current?.contains(document.activeElement);
    if (from !== to && (lost || !there)) screen.current?.focus({ preventScroll: true });
  }, [pathname, screen]);
}

/** Where each screen was in this tab: the rail leads back there, and from the screen itself to where it begins. */
export function usePlaces() {
  const { pathname, search } = useLocation();
  const now = screenAt(pathname);
  useEffect(() => {
    if (now) sessionStorage.setItem(PLACES, JSON.stringify({ ...remembered(), [now.to]: pathname + search }));
    const name = BESIDE.find(({ to }) => pathname.startsWith(to))?.name ?? now?.name;
    document.title = name ? `${name} – Warm Blend` : 'Warm Blend';
  }, [now, pathname, search]);
  const places = remembered();
  return (to: string) => (to === now?.to ? to : (places[to] ?? to));
}
