// What a painter changes about a piece, as a new entry.

import type { Finish, Piece, PiecePrediction, Scheme, ZoneFinish, ZoneView } from '../../api/client';

const EMPTY: Scheme = { name: 'first thought', intent: 'quiet', wears: {}, over: [], pairs: [] };

export const schemesOf = (entry: Piece): Scheme[] =>
  entry.schemes && entry.schemes.length > 0 ? entry.schemes : [EMPTY];

export const chosenOf = (entry: Piece) => Math.min(entry.chosen ?? 0, schemesOf(entry).length - 1);

export const schemeOf = (entry: Piece): Scheme => schemesOf(entry)[chosenOf(entry)] ?? EMPTY;

/** The entry with its chosen scheme changed. */
export function withScheme(entry: Piece, change: Partial<Scheme>): Piece {
  const at = chosenOf(entry);
  const schemes = schemesOf(entry).map((scheme, n) => (n === at ? { ...scheme, ...change } : scheme));
  return { ...entry, schemes, chosen: at };
}

/** The first two adjoining parts that do not go together. */
export const clashOf = (standing: PiecePrediction | undefined) =>
  standing?.pairs.find(({ stands }) => stands !== 'in');

/** The zones that take a finish. */
export const paintedOf = (zones: ZoneView[] | undefined) =>
  (zones ?? []).filter(({ zone }) => zone !== 'unpainted');

const NO_AGE = { wear: 0, grime: 0, water: 0, fade: 0, verdigris: 0 };

export const wornBy = (scheme: Scheme, zone: string): ZoneFinish => scheme.wears?.[zone] ?? { wears: 'bare' };

/** The strip that is worn, if it is one. */
export const stripOf = (finish: Finish) =>
  finish !== 'bare' && 'strip' in finish ? finish.strip : undefined;

/** The blend that is worn, if it is one. */
export const blendOf = (finish: Finish) =>
  finish !== 'bare' && 'blend' in finish ? finish.blend : undefined;

/** The pot of plain paint, if that is worn. */
export const potOf = (finish: Finish) =>
  finish !== 'bare' && 'paint' in finish ? finish.paint.pot : undefined;

export const ageingOf = (worn: ZoneFinish) => ({ ...NO_AGE, ...worn.ageing });

/** The entry with what a zone wears changed. */
export function withWorn(entry: Piece, zone: string, change: Partial<ZoneFinish>): Piece {
  const scheme = schemeOf(entry);
  return withScheme(entry, { wears: { ...scheme.wears, [zone]: { ...wornBy(scheme, zone), ...change } } });
}

/** The entry with all these zones in one finish; each keeps its ageing and its pattern. */
export const withAllIn = (entry: Piece, zones: string[], wears: Finish) =>
  zones.reduce((dressed, zone) => withWorn(dressed, zone, { wears }), entry);

/** The entry without anything said of a zone. */
export function withoutWorn(entry: Piece, zone: string) {
  const { [zone]: _, ...wears } = schemeOf(entry).wears ?? {};
  return withScheme(entry, { wears });
}

/** A copy of the chosen scheme, and on to it. */
export function withCopy(entry: Piece, name: string): Piece {
  const schemes = [...schemesOf(entry), { ...schemeOf(entry), name }];
  return { ...entry, schemes, chosen: schemes.length - 1 };
}

/** Without the chosen scheme. */
export function withoutScheme(entry: Piece): Piece {
  const at = chosenOf(entry);
  const schemes = schemesOf(entry).filter((_, n) => n !== at);
  return { ...entry, schemes, chosen: Math.max(0, at - 1) };
}
