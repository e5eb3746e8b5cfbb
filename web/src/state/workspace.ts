// What is kept in the workspace, as queries. Colours depend on the light and the state, so both are part of their keys.

import {
  keepPreviousData,
  type QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import {
  api,
  changing,
  got,
  type HistoryNow,
  type Mix,
  type MixEntry,
  type MixPart,
  type Paint,
  type PaintEntry,
  Problem,
} from '../api/client';
import { under } from '../api/insist';
import { useLook } from '../light/light';
import type { Tells } from '../parts/Notice';
import { ofTheSame, show } from './cache';
import { placeOf } from './places';
import { previewsAreOld, useLastPreview, usePreview } from './preview';
import { settle } from './saving';

type Look = ReturnType<typeof useLook>;

const keys = {
  paints: (look: Look) => ['paints', look],
  paintsSoFar: (look: Look) => ['paints so far', look],
  page: (id: string, look: Look) => ['page', id, look],
  mixes: (look: Look) => ['mixes', look],
  history: ['history'],
  piece: ['piece'],
} as const;

/** What is asked for at a time: first what is seen at once. */
const FIRST = 40;
const PART = 250;

/** A long list, part by part; `soFar` is shown after each but the last. */
async function inParts<T>(
  ask: (from: number, count: number) => Parameters<typeof got<T[]>>[0],
  soFar: (list: T[]) => void,
) {
  const list: T[] = [];
  for (;;) {
    const answer = await ask(list.length, list.length === 0 ? FIRST : PART);
    list.push(...(await got(Promise.resolve(answer))));
    if (!answer.response.headers.has('link')) return list;
    soFar([...list]);
  }
}

/** The shelf, once all of it is there. */
export function usePaints() {
  const look = useLook();
  const client = useQueryClient();
  return useQuery({
    queryKey: keys.paints(look),
    queryFn: ({ signal }) =>
      inParts(
        (from, count) => api.GET('/api/paints', { params: { query: { ...look, from, count } }, signal }),
        (paints) => client.setQueryData(keys.paintsSoFar(look), paints),
      ),
    placeholderData: keepPreviousData,
  });
}

/** What has come of the shelf until all of it is there: thousands of tins take a while. */
export function usePaintsSoFar(): Paint[] | undefined {
  const look = useLook();
  return useQuery<Paint[]>({ queryKey: keys.paintsSoFar(look), enabled: false }).data;
}

/** Everything about one paint. */
export function usePaintPage(id: string) {
  const look = useLook();
  return useQuery({
    queryKey: keys.page(id, look),
    queryFn: () => got(api.GET('/api/paints/{id}/page', { params: { path: { id }, query: look } })),
    placeholderData: ofTheSame(id),
  });
}

/** The mixes, the first begun first: those begun last at once, the older ones as they come where there are thousands. */
export function useMixes() {
  const look = useLook();
  const client = useQueryClient();
  return useQuery({
    queryKey: keys.mixes(look),
    queryFn: async ({ signal, queryKey }) => {
      const known = client.getQueryData(queryKey) !== undefined;
      const query = { ...look, latest_first: true };
      const latestFirst = await inParts<Mix>(
        (from, count) => api.GET('/api/mixes', { params: { query: { ...query, from, count } }, signal }),
        (mixes) => known || client.setQueryData(queryKey, mixes.toReversed()),
      );
      return latestFirst.toReversed();
    },
    placeholderData: keepPreviousData,
  });
}

/** What colour a mix is in daylight, dry: as targets are shown. */
export async function dryInDaylight(id: string): Promise<[number, number, number] | undefined> {
  const query = { light: 'daylight', state: 'dry' } as const;
  const mix = await got(api.GET('/api/mixes/{id}', { params: { path: { id }, query } }));
  const [l, a, b] = mix.prediction.swatch?.face.lab ?? [];
  return l === undefined || a === undefined || b === undefined ? undefined : [l, a, b];
}

export function useClasses() {
  return useQuery({
    queryKey: ['classes'],
    queryFn: () => got(api.GET('/api/classes')),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export function usePiece() {
  return useQuery({ queryKey: keys.piece, queryFn: () => got(api.GET('/api/piece')) });
}

export function useHistory() {
  return useQuery({ queryKey: keys.history, queryFn: () => got(api.GET('/api/history')) });
}

/** What is to be said of the workspace file: asked for now and then, because another program may come to it at any time. */
export function useNotices(): string[] {
  const { data } = useQuery({
    queryKey: ['notices'],
    queryFn: () => got(api.GET('/api/notices')),
    refetchInterval: 30_000,
  });
  return data ?? [];
}

/** Entries that cannot be used, and how to delete one. */
export function useSetAside() {
  const client = useQueryClient();
  const queryKey = ['set aside'];
  const { data } = useQuery({ queryKey, queryFn: () => got(api.GET('/api/set-aside')) });
  const { mutate } = useMutation({
    mutationFn: (id: string) => got(changing.DELETE('/api/set-aside/{id}', { params: { path: { id } } })),
    onSettled: () => client.invalidateQueries({ queryKey }),
  });
  return { entries: data ?? [], remove: mutate };
}

/** From how many readings nothing was learnt yet; asked for again until there are none. */
export function usePendingReadings(): number {
  const { data } = useQuery({
    queryKey: ['learning'],
    queryFn: () => got(api.GET('/api/learning')),
    refetchInterval: ({ state }) => (state.data && state.data.readings > 0 ? 700 : false),
  });
  return data?.readings ?? 0;
}

/** Everything that may have changed is asked for again. */
export function refresh(client: QueryClient) {
  return client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'photo' });
}

export function useRefresh() {
  const client = useQueryClient();
  return () => void refresh(client);
}

/** What undo and redo would do now. */
export const historyNow = (client: QueryClient) =>
  client.fetchQuery({ queryKey: keys.history, queryFn: () => got(api.GET('/api/history')) });

/** The change that is meant may be given: else it is the last. */
export function useUndo(direction: 'undo' | 'redo', tell: Tells) {
  const client = useQueryClient();
  const go = useNavigate();
  return useMutation({
    mutationFn: async (meant: number | undefined) => {
      // What was typed last is a change too, and the one that is meant. Else it is the one whose name is on the button.
      const sent = await settle();
      const query = client.getQueryCache().find<HistoryNow>({ queryKey: keys.history });
      const now = query?.state;
      const seen = !sent && !now?.isInvalidated && now?.fetchStatus === 'idle' ? now.data : undefined;
      const change = meant ?? (seen ?? (await historyNow(client)))[direction]?.change;
      if (change === undefined) return undefined;
      return got(
        direction === 'undo'
          ? changing.POST('/api/undo', { body: { change } })
          : changing.POST('/api/redo', { body: { change } }),
      );
    },
    onSuccess(now) {
      if (!now) return;
      if (now.done) {
        tell(`${direction === 'undo' ? 'Undone' : 'Redone'}: ${now.done.words}`);
        const here = window.location.pathname;
        const place = placeOf(now.done, here);
        if (place && !here.startsWith(place)) void go(place);
      }
      client.setQueryData(keys.history, now);
    },
    onError(error) {
      tell(
        error instanceof Problem
          ? `Couldn’t ${direction}: ${error.message}`
          : `Couldn’t ${direction}: Warm Blend isn’t responding`,
        'stays',
      );
    },
    onSettled: () => refresh(client),
  });
}

/** Reads and writes of paints, in the light at hand. */
export function usePaintCalls() {
  const look = useLook();
  const client = useQueryClient();
  const query = look;
  return {
    make: async (entry: PaintEntry) => {
      const params = { query: { ...query, may_be_white: true } };
      const paint = await got(changing.POST('/api/paints', { params, body: entry }));
      await refresh(client);
      return paint;
    },
    /** Puts the usual mediums on the shelf that it lacks. */
    addUsualMediums: async () => {
      const added = await got(changing.POST('/api/paints/usual-mediums', { params: { query } }));
      await refresh(client);
      return added;
    },
    put: (id: string) => (entry: PaintEntry, revision: number, key: string) =>
      got(
        api.PUT('/api/paints/{id}', {
          params: { path: { id }, query: { ...query, revision } },
          body: entry,
          ...under(key),
        }),
      ),
    get: (id: string) => () => got(api.GET('/api/paints/{id}', { params: { path: { id }, query } })),
    saved: async (paint: Paint) => {
      await show<Paint[]>(client, keys.paints(look), (old) =>
        old?.map((p) => (p.id === paint.id ? paint : p)),
      );
      void client.invalidateQueries({ queryKey: keys.history });
      for (const stale of ['mixes', 'preview', 'page']) void client.invalidateQueries({ queryKey: [stale] });
    },
    merge: async (keep: string, gone: string) => {
      const paint = await got(
        changing.POST('/api/paints/merge', { params: { query }, body: { keep, gone } }),
      );
      await refresh(client);
      return paint;
    },
    remove: async (paint: Paint, confirmed: boolean) => {
      const params = { path: { id: paint.id }, query: { revision: paint.revision, confirmed } };
      await got(changing.DELETE('/api/paints/{id}', { params }));
      await refresh(client);
    },
  };
}

/** Reads and writes of mixes, in the light at hand. */
export function useMixCalls() {
  const look = useLook();
  const client = useQueryClient();
  const query = look;
  const asked = (id: string, revision: number, body: MixEntry) => ({
    params: { path: { id }, query: { ...query, revision } },
    body,
  });
  /** In its place in the list of all. */
  const shown = (mix: Mix) =>
    show<Mix[]>(client, keys.mixes(look), (old) => old?.map((m) => (m.id === mix.id ? mix : m)));
  return {
    put: (id: string) => (entry: MixEntry, revision: number, key: string) =>
      got(api.PUT('/api/mixes/{id}', { ...asked(id, revision, entry), ...under(key) })),
    make: async (entry: MixEntry) => {
      const mix = await got(changing.POST('/api/mixes', { params: { query }, body: entry }));
      await show<Mix[]>(client, keys.mixes(look), (old) => [...(old ?? []), mix]);
      void refresh(client);
      return mix;
    },
    /** The mix that such parts are already, or a new one. */
    ofParts: async (components: MixPart[]) => {
      const mix = await got(
        changing.POST('/api/mixes/of-parts', { params: { query }, body: { components } }),
      );
      await show<Mix[]>(client, keys.mixes(look), (old = []) =>
        old.some(({ id }) => id === mix.id) ? old : [...old, mix],
      );
      void refresh(client);
      return mix;
    },
    /** Of a mix that is not on the bench yet. */
    change: async ({ id, revision }: Mix, entry: MixEntry) => {
      const mix = await got(changing.PUT('/api/mixes/{id}', asked(id, revision, entry)));
      await shown(mix);
      void refresh(client);
      return mix;
    },
    get: (id: string) => () => got(api.GET('/api/mixes/{id}', { params: { path: { id }, query } })),
    /** As it is kept now, made into a usual mixture with what the shelf lacks for it. */
    makeInto: async (id: string, preset: string) => {
      const { revision } = await got(api.GET('/api/mixes/{id}', { params: { path: { id }, query } }));
      const params = { path: { id }, query: { ...query, revision } };
      const mix = await got(changing.POST('/api/mixes/{id}/make-into', { params, body: { preset } }));
      await shown(mix);
      await refresh(client);
      return mix;
    },
    saved: async (mix: Mix) => {
      await shown(mix);
      void previewsAreOld(client);
      void client.invalidateQueries({ queryKey: keys.history });
    },
    remove: async (mix: Mix) => {
      const params = { path: { id: mix.id }, query: { revision: mix.revision } };
      await got(changing.DELETE('/api/mixes/{id}', { params }));
      await refresh(client);
    },
  };
}

/** What an unsaved mix would look like: the last answer stays until the next is there, or beside why there is none. */
export function useMixPreview(entry: MixEntry) {
  const look = useLook();
  // The name has no colour: leaving it out spares a question with every letter typed.
  const body: MixEntry = { components: entry.components, target: entry.target ?? null };
  return useLastPreview({
    queryKey: ['mix', look, body],
    queryFn: ({ signal }) => got(api.POST('/api/mixes/preview', { params: { query: look }, body, signal })),
  });
}

/** What a paint would look like, as far as it is written down; nothing is asked before there is anything to see. */
export function usePaintPreview(entry: PaintEntry) {
  const look = useLook();
  const classes = useClasses().data;
  const seen = entry.colour != null || classes?.find(({ id }) => id === entry.class)?.medium === true;
  const body: PaintEntry = { ...entry, name: entry.name.trim() || 'new', stock_ml: null, price: null };
  return usePreview({
    queryKey: ['paint', look, body],
    queryFn: ({ signal }) => got(api.POST('/api/paints/preview', { params: { query: look }, body, signal })),
    enabled: seen,
  });
}
