// Changes to a board as it is put together: every one makes a new entry.

import type { Board, FixOffered, Layer, RemedyView, Strip } from '../../api/client';

/** Kinds of place, in the order they are shown. */
export const PLACES = ['field', 'recess', 'edge'] as const;
export type Place = (typeof PLACES)[number];

export const LETTERS = ['A', 'B', 'C', 'D', 'E', 'F'];

export const newLayer = (technique: string, pot: Layer['pot'], mix: string | null = null): Layer => ({
  id: crypto.randomUUID(),
  technique,
  pot,
  mix,
  hand: { load: 1, wipe: 0.5, passes: 1 },
  on: { field: true, recess: true, edge: true },
  print: null,
  meets: null,
  down_to: null,
  muted: false,
});

const withStrips = (entry: Board, change: (strip: Strip) => Strip): Board => ({
  ...entry,
  strips: entry.strips.map(change),
});

export const stripOf = (entry: Board, letter: string) =>
  entry.strips.find((strip) => strip.letter === letter) ?? entry.strips[0];

/** All layers of a strip as they lie, the lowest first: those it shares, then its own. */
export function layersOf(entry: Board, letter: string): Layer[] {
  const strip = stripOf(entry, letter);
  if (!strip) return [];
  const shared = strip.from && strip.from.strip !== letter ? layersOf(entry, strip.from.strip) : [];
  return [...shared.slice(0, strip.from?.after ?? 0), ...strip.layers];
}

/** Changes the own layers of the strip that a layer belongs to. */
function around(entry: Board, layer: string, change: (layers: Layer[], at: number) => Layer[]) {
  const owner = entry.strips.find((strip) => strip.layers.some(({ id }) => id === layer));
  return owner
    ? relaid(
        entry,
        owner.letter,
        change(
          owner.layers,
          owner.layers.findIndex(({ id }) => id === layer),
        ),
      )
    : entry;
}

/** Gives a strip other layers; strips that share all of them go on sharing all of them. */
function relaid(entry: Board, letter: string, layers: Layer[]): Board {
  const strip = stripOf(entry, letter);
  if (!strip) return entry;
  const more = layers.length - strip.layers.length;
  return withStrips(entry, (other) => {
    if (other.letter === letter) return { ...other, layers };
    if (other.from?.strip !== letter) return other;
    return { ...other, from: { ...other.from, after: Math.max(0, other.from.after + more) } };
  });
}

/** What is changed about a layer, or how that comes of what it is then. */
export type LayerChange = Partial<Layer> | ((now: Layer) => Partial<Layer>);

export const changed = (entry: Board, layer: string, change: LayerChange) =>
  around(entry, layer, (layers, at) =>
    layers.map((one, i) =>
      i === at ? { ...one, ...(change instanceof Function ? change(one) : change) } : one,
    ),
  );

export const without = (entry: Board, layer: string) =>
  around(entry, layer, (layers, at) => layers.toSpliced(at, 1));

export const twice = (entry: Board, layer: string) =>
  around(entry, layer, (layers, at) => {
    const one = layers[at];
    return one ? layers.toSpliced(at + 1, 0, { ...one, id: crypto.randomUUID() }) : layers;
  });

/** Moves a layer up or down among the layers of its strip. */
export const moved = (entry: Board, layer: string, by: number) =>
  around(entry, layer, (layers, at) => {
    const [one] = layers.slice(at, at + 1);
    const to = Math.min(Math.max(at + by, 0), layers.length - 1);
    return one ? layers.toSpliced(at, 1).toSpliced(to, 0, one) : layers;
  });

/** Moves a layer to the place of another of its strip. */
export function movedTo(entry: Board, layer: string, place: string) {
  const owner = entry.strips.find((strip) => strip.layers.some(({ id }) => id === layer));
  const to = owner?.layers.findIndex(({ id }) => id === place) ?? -1;
  const at = owner?.layers.findIndex(({ id }) => id === layer) ?? -1;
  return to < 0 || to === at ? entry : moved(entry, layer, to - at);
}

/** Puts a layer on top of a strip. Strips that branch off stay as they are. */
export const onTop = (entry: Board, letter: string, layer: Layer) =>
  withStrips(entry, (strip) =>
    strip.letter === letter ? { ...strip, layers: [...strip.layers, layer] } : strip,
  );

/** A further strip that shares a strip's layers but for the topmost, which it has a copy of. */
export function branched(entry: Board, letter: string): Board | undefined {
  const strip = stripOf(entry, letter);
  const free = LETTERS.find((one) => entry.strips.every((other) => other.letter !== one));
  if (!strip || !free) return undefined;
  const top = strip.layers.at(-1);
  const shared = (strip.from?.after ?? 0) + strip.layers.length - (top ? 1 : 0);
  const layers = top ? [{ ...top, id: crypto.randomUUID() }] : [];
  const from = strip.layers.length > 1 || !strip.from ? { strip: strip.letter, after: shared } : strip.from;
  return { ...entry, strips: [...entry.strips, { letter: free, from, layers }] };
}

/** Takes a strip off. Those that branch off it get its layers for their own. */
export function withoutStrip(entry: Board, letter: string): Board {
  const gone = stripOf(entry, letter);
  if (!gone || entry.strips.length < 2) return entry;
  const below = gone.from?.after ?? 0;
  const strips = entry.strips
    .filter((strip) => strip.letter !== letter)
    .map((strip) => {
      if (strip.from?.strip !== letter) return strip;
      const inherited = gone.layers.slice(0, Math.max(0, strip.from.after - below));
      const copies = inherited.map((layer) => ({ ...layer, id: crypto.randomUUID() }));
      return { ...strip, from: gone.from ?? null, layers: [...copies, ...strip.layers] };
    });
  return { ...entry, strips };
}

const below = (entry: Board, layer: string, put: Layer) =>
  around(entry, layer, (layers, at) => layers.toSpliced(at, 0, put));

/** What a way back does to a strip. */
export const mended = (entry: Board, letter: string, way: RemedyView) =>
  way.changes.reduce((entry, change) => {
    if (change.action === 'take') return without(entry, change.id);
    if (!change.layer) return entry;
    if (change.action === 'instead') return changed(entry, change.id, change.layer);
    return change.below ? below(entry, change.below, change.layer) : onTop(entry, letter, change.layer);
  }, entry);

/** What a piece of advice cures in one touch. */
export function cured(entry: Board, fix: FixOffered): Board {
  const { layer, technique } = fix;
  if (fix.action === 'below' && layer && technique) return below(entry, layer, newLayer(technique, []));
  if (fix.action === 'down-to' && layer) return changed(entry, layer, { down_to: fix.down_to ?? null });
  if (fix.action === 'under' && layer) return below(entry, layer, newLayer('brushed-coat', fix.pot));
  if (fix.action === 'instead' && layer && technique)
    return changed(entry, layer, { technique, print: null });
  if (fix.action === 'again' && layer)
    return around(entry, layer, (layers, at) =>
      layers.map((one, i) =>
        i === at ? { ...one, hand: { ...one.hand, load: 1, passes: Math.min(9, one.hand.passes + 1) } } : one,
      ),
    );
  return entry;
}
