// What a painter changes about a piece, as a new entry.

import type { PieceEntry, SchemeEntry, WornEntry } from '../../api/client';

const EMPTY: SchemeEntry = { name: 'first thought', intent: 'quiet', wears: [], over: [], pairs: [] };

export const schemesOf = (entry: PieceEntry): SchemeEntry[] =>
  entry.schemes && entry.schemes.length > 0 ? entry.schemes : [EMPTY];

export const chosenOf = (entry: PieceEntry) => Math.min(entry.chosen ?? 0, schemesOf(entry).length - 1);

export const schemeOf = (entry: PieceEntry): SchemeEntry => schemesOf(entry)[chosenOf(entry)] ?? EMPTY;

/** The entry with its chosen scheme changed. */
export function withScheme(entry: PieceEntry, change: Partial<SchemeEntry>): PieceEntry {
  const at = chosenOf(entry);
  const schemes = schemesOf(entry).map((scheme, n) => (n === at ? { ...scheme, ...change } : scheme));
  return { ...entry, schemes, chosen: at };
}

const NO_AGE = { wear: 0, grime: 0, water: 0, fade: 0, verdigris: 0 };

export const wornBy = (scheme: SchemeEntry, zone: string): WornEntry =>
  scheme.wears?.find((worn) => worn.zone === zone) ?? {
    zone,
    strip: null,
    blend: null,
    ground: null,
    stencil: null,
  };

export const ageingOf = (worn: WornEntry) => ({ ...NO_AGE, ...worn.ageing });

/** The entry with what a zone wears changed. */
export function withWorn(entry: PieceEntry, zone: string, change: Partial<WornEntry>): PieceEntry {
  const scheme = schemeOf(entry);
  const worn = { ...wornBy(scheme, zone), ...change };
  const others = (scheme.wears ?? []).filter((one) => one.zone !== zone);
  return withScheme(entry, { wears: [...others, worn] });
}

/** The entry without anything said of a zone. */
export const withoutWorn = (entry: PieceEntry, zone: string) =>
  withScheme(entry, { wears: (schemeOf(entry).wears ?? []).filter((one) => one.zone !== zone) });

/** A copy of the chosen scheme, and on to it. */
export function withCopy(entry: PieceEntry, name: string): PieceEntry {
  const schemes = [...schemesOf(entry), { ...schemeOf(entry), name }];
  return { ...entry, schemes, chosen: schemes.length - 1 };
}

/** Without the chosen scheme. */
export function withoutScheme(entry: PieceEntry): PieceEntry {
  const at = chosenOf(entry);
  const schemes = schemesOf(entry).filter((_, n) => n !== at);
  return { ...entry, schemes, chosen: Math.max(0, at - 1) };
}
