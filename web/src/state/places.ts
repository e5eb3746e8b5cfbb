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

/** The screen of what was changed; none where it is seen on several, or where one is already. */
export function placeOf({ kind, document, there }: HistoryStep, here: string): string | undefined {
  // What is left of a pot is seen among the jars.
  if (kind === 'pour' && here.startsWith('/jars')) return undefined;
  const screen = BY_ID[kind];
  return screen && there ? `${screen}/${document}` : (screen ?? SCREENS[kind]);
}
