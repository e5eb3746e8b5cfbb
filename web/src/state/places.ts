// Where what is kept is seen.

import type { components } from '../api/schema';

type HistoryStep = components['schemas']['HistoryStep'];

/** Screens of one document each, by its kind. */
const BY_ID: Record<string, string> = { paint: '/shelf', mix: '/pot', board: '/board' };
const SCREENS: Record<string, string> = {
  piece: '/piece',
  'run-sheet': '/run-sheet',
  'board-reading': '/board',
  note: '/log',
  pour: '/pot',
};

/** The screen of what was changed; none where it is seen on several. */
export function placeOf({ kind, document, there }: HistoryStep): string | undefined {
  const screen = BY_ID[kind];
  return screen && there ? `${screen}/${document}` : (screen ?? SCREENS[kind]);
}
