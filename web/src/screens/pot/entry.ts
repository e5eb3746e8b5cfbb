// Changes to a mix, as plain values: which paints, in how many whole parts.

import type { MixEntry } from '../../api/client';

export const MOST_PAINTS = 8;
export const MOST_PARTS = 999;

export const EMPTY: MixEntry = { name: null, components: [], target: null };

export function put(entry: MixEntry, paint: string): MixEntry {
  return { ...entry, components: [...entry.components, { paint, parts: 1 }] };
}

export function takeOut(entry: MixEntry, paint: string): MixEntry {
  return { ...entry, components: entry.components.filter((part) => part.paint !== paint) };
}

export function setParts(entry: MixEntry, paint: string, parts: number): MixEntry {
  const whole = Math.min(MOST_PARTS, Math.max(1, Math.round(parts)));
  return {
    ...entry,
    components: entry.components.map((part) => (part.paint === paint ? { ...part, parts: whole } : part)),
  };
}

/** Where the joints of the bar lie: after how many parts each paint ends, but for the last. */
export function joints(entry: MixEntry): number[] {
  let sum = 0;
  return entry.components.slice(0, -1).map((part) => {
    sum += part.parts;
    return sum;
  });
}

export const totalParts = (entry: MixEntry) => entry.components.reduce((sum, part) => sum + part.parts, 0);

/** The mix whose joints lie there; every paint keeps at least one part. */
export function withJoints(entry: MixEntry, at: number[]): MixEntry {
  const total = totalParts(entry);
  const ends = [...at, total];
  let before = 0;
  const components = entry.components.map((part, i) => {
    const left = entry.components.length - 1 - i;
    const end = Math.min(total - left, Math.max(before + 1, ends[i] ?? total));
    const parts = end - before;
    before = end;
    return { ...part, parts };
  });
  return { ...entry, components };
}

/** All parts times a whole number: the same mix, with finer steps. */
export function finer(entry: MixEntry, times: number): MixEntry {
  return { ...entry, components: entry.components.map((part) => ({ ...part, parts: part.parts * times })) };
}

/** The smallest whole parts of the same ratio. */
export function simplest(entry: MixEntry): MixEntry {
  const divisor = entry.components.map((part) => part.parts).reduce(common, 0);
  return divisor > 1
    ? { ...entry, components: entry.components.map((part) => ({ ...part, parts: part.parts / divisor })) }
    : entry;
}

function common(a: number, b: number): number {
  return b === 0 ? a : common(b, a % b);
}
