// What the engine says at the bench beside the mix itself: nothing of it is kept.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Colour, got, type Measure, type MixPart, type Wanted } from '../api/client';
import { useLook } from '../light/light';

const ASKED = { retry: false, gcTime: 60_000 } as const;

/** The mixes that come nearest to a target: of two paints at once, then of as many as may be. Leaving stops the search. */
export function useFound(wanted: Wanted | undefined) {
  const look = useLook();
  const ask = (body: Wanted | undefined, kind: string) => ({
    queryKey: ['found', kind, look, body],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      got(api.POST('/api/bench/match', { params: { query: look }, body: body as Wanted, signal })),
    enabled: body !== undefined,
    ...ASKED,
  });
  const first = useQuery(ask(wanted && { ...wanted, paints: Math.min(2, wanted.paints ?? 3) }, 'first'));
  const search = ask(wanted, 'all');
  const all = useQuery(search);
  const client = useQueryClient();
  return {
    found: all.data ?? first.data,
    /** True where it is the best of every mix, not only of those of two paints. */
    whole: all.data !== undefined,
    searching: all.isFetching,
    error: all.error ?? first.error,
    stop: () => void client.cancelQueries({ queryKey: search.queryKey }),
    goOn: () => void all.refetch(),
  };
}

/** The shades of what is in the pot. */
export function useLadder(base: MixPart[], shade: number | undefined, neighbours: string[]) {
  const look = useLook();
  const [one, other] = neighbours;
  const body = { base, shade: shade ?? null, neighbours: one && other ? [one, other] : null };
  return useQuery({
    queryKey: ['ladder', look, body],
    queryFn: ({ signal }) => got(api.POST('/api/bench/ladder', { params: { query: look }, body, signal })),
    enabled: base.length > 0,
    placeholderData: keepPreviousData,
    ...ASKED,
  });
}

/** What lies between colours. */
export function useBlend(colours: MixPart[][]) {
  const look = useLook();
  const body = { colours };
  return useQuery({
    queryKey: ['blend', look, body],
    queryFn: ({ signal }) => got(api.POST('/api/bench/blend', { params: { query: look }, body, signal })),
    enabled: colours.length > 1,
    placeholderData: keepPreviousData,
    ...ASKED,
  });
}

/** How much is to be mixed: a number of a measure or of a surface, or all that is left of a paint. */
export interface BatchAsked {
  amount: number;
  measure: string;
  coats: number | null;
  using_up: string | null;
}

/** A batch in spoons and cups. */
export function useMeasured(components: MixPart[], asked: BatchAsked | undefined) {
  const look = useLook();
  const body = { components, ...(asked ?? { amount: 0, measure: 'ml' }) };
  return useQuery({
    queryKey: ['measured', look, body],
    queryFn: ({ signal }) => got(api.POST('/api/bench/measure', { params: { query: look }, body, signal })),
    enabled: components.length > 0 && asked !== undefined,
    placeholderData: keepPreviousData,
    ...ASKED,
  });
}

/** What to add to a pot so that it comes to its target. */
export function useCorrections(
  entry: { components: MixPart[]; target?: Colour | null },
  amount: number | undefined,
  measure: Measure,
) {
  const look = useLook();
  const target = entry.target ?? undefined;
  return useQuery({
    queryKey: ['corrections', look, entry.components, amount, measure, target],
    queryFn: ({ signal }) =>
      got(
        api.POST('/api/bench/correct', {
          params: { query: look },
          body: { components: entry.components, amount: amount ?? 0, measure, target: target ?? {} },
          signal,
        }),
      ),
    enabled: entry.components.length > 0 && amount !== undefined && target !== undefined,
    placeholderData: keepPreviousData,
    ...ASKED,
  });
}

/** The usual mixtures of paint with mediums. */
export function usePresets() {
  return useQuery({ queryKey: ['presets'], queryFn: () => got(api.GET('/api/bench/presets')) });
}

/** The pot as a usual mixture, or without mediums. */
export const madeInto = (components: MixPart[], preset: string | null) =>
  got(api.POST('/api/bench/make-into', { body: { components, preset } }));

/** The films that a pot leaves over a paint. */
export function useFilm(components: MixPart[], ground: string | undefined) {
  const look = useLook();
  const body = { components, on_paint: ground ?? null, on_colour: null };
  return useQuery({
    queryKey: ['film', look, body],
    queryFn: ({ signal }) => got(api.POST('/api/bench/film', { params: { query: look }, body, signal })),
    enabled: components.length > 0 && ground !== undefined,
    placeholderData: keepPreviousData,
    ...ASKED,
  });
}
