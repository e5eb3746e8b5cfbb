// Sample boards: what is kept, what is predicted, what is drawn.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  api,
  type Board,
  type BoardKept,
  type BoardReadingEntry,
  type BoardReadingKept,
  changing,
  type Defect,
  type GroundKind,
  got,
  type Layer,
  type MixPart,
  type StateName,
} from '../api/client';
import { under } from '../api/insist';
import { useLook } from '../light/light';
import type { Lit } from '../parts/Lamp';
import type { Stance } from '../parts/StepCloser';
import { show } from './cache';
import { previewsAreOld, useLastPreview, usePreview, usePreviewPicture } from './preview';
import { refresh } from './workspace';

export function useBoards() {
  const look = useLook();
  return useQuery({
    queryKey: ['boards', look],
    queryFn: () => got(api.GET('/api/boards', { params: { query: look } })),
    placeholderData: keepPreviousData,
  });
}

export function useBoard(id: string | undefined) {
  return useQuery({
    queryKey: ['board', id],
    queryFn: () => got(api.GET('/api/boards/{id}', { params: { path: { id: id ?? '' } } })),
    enabled: id !== undefined,
    retry: false,
  });
}

/** The techniques and grounds that boards are made of. */
export function useBoardChoices() {
  return useQuery({
    queryKey: ['board choices'],
    queryFn: () => got(api.GET('/api/boards/choices')),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}

/** Finishes to begin from, over a ground and in a main colour, as the shelf would make them. */
export function useReadyFinishes(ground: GroundKind, base: string | undefined) {
  const query = { ground, ...(base ? { base } : {}) };
  return usePreview({
    queryKey: ['ready finishes', query],
    queryFn: ({ signal }) => got(api.GET('/api/boards/ready', { params: { query }, signal })),
  }).data;
}

export function useBoardCalls() {
  const client = useQueryClient();
  return {
    make: async (
      name: string,
      ground: GroundKind,
      template: string | null,
      base: string | null,
      layers: Layer[] = [],
    ) => {
      const board = await got(
        changing.POST('/api/boards', { body: { name, ground, template, base, layers } }),
      );
      await show(client, ['board', board.id], board);
      await refresh(client);
      return board;
    },
    put: (id: string) => (entry: Board, revision: number, key: string) =>
      got(
        api.PUT('/api/boards/{id}', {
          params: { path: { id }, query: { revision } },
          body: entry,
          ...under(key),
        }),
      ),
    get: (id: string) => () => got(api.GET('/api/boards/{id}', { params: { path: { id } } })),
    saved: async (board: BoardKept) => {
      await show(client, ['board', board.id], board);
      void previewsAreOld(client);
      for (const stale of ['history', 'boards']) void client.invalidateQueries({ queryKey: [stale] });
    },
    remove: async ({ id, revision }: BoardKept) => {
      await got(changing.DELETE('/api/boards/{id}', { params: { path: { id }, query: { revision } } }));
      await refresh(client);
    },
  };
}

/** The name has no colour: leaving it out spares a question with every letter typed. */
const nameless = (entry: Board) => ({ ...entry, name: 'board' });

/** What a strip of an unsaved board would look like with so many of its layers on. */
export function useStrip(entry: Board, strip: string, layers: number | undefined) {
  const look = useLook();
  const body = nameless(entry);
  const query = { ...look, strip, ...(layers === undefined ? {} : { layers }) };
  return useLastPreview({
    queryKey: ['board', query, body],
    queryFn: ({ signal }) => got(api.POST('/api/boards/preview', { params: { query }, body, signal })),
  });
}

/** The ways to fix it for a strip gone wrong. */
export function useRescue(entry: Board, strip: string, trouble: Defect | undefined) {
  const look = useLook();
  const body = nameless(entry);
  return usePreview({
    queryKey: ['rescue', look, strip, trouble, body],
    queryFn: ({ signal }) =>
      got(
        api.POST('/api/boards/rescue', {
          params: { query: { ...look, strip, trouble: trouble ?? 'dull' } },
          body,
          signal,
        }),
      ),
    enabled: trouble !== undefined,
  });
}

/** What other schools would do with a strip. */
export function useSchools(entry: Board, strip: string) {
  const look = useLook();
  const body = nameless(entry);
  return usePreview({
    queryKey: ['schools', look, strip, body],
    queryFn: ({ signal }) =>
      got(api.POST('/api/boards/schools', { params: { query: { ...look, strip } }, body, signal })),
  });
}

interface Drawn extends Lit {
  strip: string;
  layers?: number | undefined;
  width: number;
  height: number;
  all: boolean;
}

/** What is shown of a picture of a board. */
export function usePicture(entry: Board, { layers, ...drawn }: Drawn, at?: Stance) {
  const look = useLook();
  const body = nameless(entry);
  const query = { ...look, ...drawn, ...at, ...(layers === undefined ? {} : { layers }) };
  return usePreviewPicture({
    queryKey: ['picture', query, body],
    draw: (how, signal) => {
      const params = { query: { ...query, ...how } };
      return got(
        api.POST('/api/boards/picture', { params, body, signal, parseAs: 'blob' }),
      ) as Promise<unknown> as Promise<Blob>;
    },
    width: drawn.width,
    height: drawn.height,
    at,
  });
}

/** Readings of a painted board, the last first, and what can be done with them. What they teach changes every prediction. */
export function useBoardReadings(board: string) {
  const client = useQueryClient();
  const path = { id: board };
  const params = ({ id, revision }: BoardReadingKept) => ({ path: { id }, query: { revision } });
  const { data: readings = [] } = useQuery({
    queryKey: ['board readings', board],
    queryFn: () => got(api.GET('/api/boards/{id}/readings', { params: { path } })),
  });
  return {
    readings,
    read: (strip: string, place: string, state: StateName) =>
      got(api.POST('/api/boards/{id}/read', { params: { path }, body: { strip, place, state } })),
    make: async (body: BoardReadingEntry) => {
      const made = await got(changing.POST('/api/boards/{id}/readings', { params: { path }, body }));
      await refresh(client);
      return made;
    },
    insist: async (reading: BoardReadingKept) => {
      const body = { sure: true, note: reading.note ?? null };
      await got(changing.PUT('/api/boards/readings/{id}', { params: params(reading), body }));
      await refresh(client);
    },
    remove: async (reading: BoardReadingKept) => {
      await got(changing.DELETE('/api/boards/readings/{id}', { params: params(reading) }));
      await refresh(client);
    },
  };
}

/** Where a kept board's picture for the record is: large, in the light and the state at hand. */
export function pictureAddress(board: string, look: object, drawn: { strip: string; all: boolean }) {
  const query = new URLSearchParams({ width: '2400', height: '1200' });
  for (const [name, value] of Object.entries({ ...look, ...drawn })) query.set(name, String(value));
  return `/api/boards/${board}/picture?${query}`;
}

/** A pot so many shades lighter, or darker below nought; its mediums stay. */
export function useShade() {
  const query = useLook();
  return (pot: MixPart[], shades: number) =>
    got(api.POST('/api/boards/shade', { params: { query }, body: { pot, shades } }));
}
