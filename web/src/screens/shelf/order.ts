// How the shelf is sorted and filtered. Everything compared here was computed by the engine.

import type { Paint } from '../../api/client';

export const SORTS = [
  { id: 'added', name: 'As added' },
  { id: 'lightness', name: 'Light to dark' },
  { id: 'hue', name: 'By hue' },
  { id: 'doubt', name: 'Least sure first' },
  { id: 'use', name: 'Most used first' },
  { id: 'name', name: 'By name' },
] as const;

export type Sort = (typeof SORTS)[number]['id'];

export const EVERYTHING = 'all';

const lightness = (paint: Paint) => paint.swatch.face.lab[0] ?? 0;
const FAMILIES = ['white', 'grey', 'black', 'brown', 'red', 'orange', 'yellow', 'green', 'blue', 'purple'];

const COMPARE: Record<Sort, (a: Paint, b: Paint) => number> = {
  added: () => 0,
  lightness: (a, b) => lightness(b) - lightness(a),
  hue: (a, b) => FAMILIES.indexOf(a.family) - FAMILIES.indexOf(b.family) || lightness(b) - lightness(a),
  doubt: (a, b) => b.known.doubt - a.known.doubt,
  use: (a, b) => b.used_in - a.used_in,
  name: (a, b) => a.entry.name.localeCompare(b.entry.name),
};

/** Whether every word that is typed stands somewhere in the name or the type. */
export function isSought(paint: Paint, sought: string) {
  const text = `${paint.entry.name} ${paint.class_name}`.toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** What the shelf can be narrowed to: only what is on it. */
export function filters(paints: Paint[]) {
  const has = (test: (paint: Paint) => boolean) => paints.some(test);
  const families = FAMILIES.filter((family) => has((paint) => !paint.medium && paint.family === family));
  const classes = [...new Set(paints.map((paint) => paint.class_name))];
  return [
    { id: EVERYTHING, name: 'All' },
    ...(has((paint) => paint.known.questions > 0) ? [{ id: 'questions', name: 'Readings to check' }] : []),
    ...(has((paint) => !paint.medium && ['rough', 'guess'].includes(paint.known.rank))
      ? [{ id: 'unsure', name: 'Worth testing' }]
      : []),
    ...(has((paint) => paint.used_in > 0) ? [{ id: 'used', name: 'Used in a mix' }] : []),
    ...(has((paint) => paint.medium) ? [{ id: 'mediums', name: 'Mediums' }] : []),
    ...families.map((family) => ({
      id: `family ${family}`,
      name: `${family[0]?.toUpperCase()}${family.slice(1)}s`,
    })),
    ...classes.map((name) => ({ id: `class ${name}`, name })),
  ];
}

function passes(paint: Paint, filter: string) {
  if (filter === 'questions') return paint.known.questions > 0;
  if (filter === 'unsure') return !paint.medium && ['rough', 'guess'].includes(paint.known.rank);
  if (filter === 'used') return paint.used_in > 0;
  if (filter === 'mediums') return paint.medium;
  if (filter.startsWith('family ')) return !paint.medium && paint.family === filter.slice(7);
  if (filter.startsWith('class ')) return paint.class_name === filter.slice(6);
  return true;
}

export function arrange(paints: Paint[], sort: Sort, filter: string) {
  return paints.filter((paint) => passes(paint, filter)).toSorted(COMPARE[sort]);
}
