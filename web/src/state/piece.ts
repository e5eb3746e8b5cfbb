// The piece at hand: what is kept, what is predicted, what is drawn, what brings it together.

import { keepPreviousData, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import {
  api,
  changing,
  got,
  type OutlineAsked,
  type Piece,
  type PieceKept,
  Problem,
  type ProblemBody,
  type UnifyStep,
} from '../api/client';
import { under } from '../api/insist';
import { lastLine } from '../api/lines';
import { useLook, useUnits } from '../light/light';
import type { Lit } from '../parts/Lamp';
import type { Stance } from '../parts/StepCloser';
import { show } from './cache';
import { previewsAreOld, useLastPreview, usePreviewPicture } from './preview';
import { refresh } from './workspace';

/** What pieces are made of. */
export function usePieceChoices() {
  const units = useUnits();
  return useQuery({
    queryKey: ['piece choices', units],
    queryFn: () => got(api.GET('/api/piece/choices', { params: { query: { units } } })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}

export function usePieceCalls(id: string) {
  const client = useQueryClient();
  const path = { id };
  return {
    put: (entry: Piece, revision: number, key: string) =>
      got(api.PUT('/api/pieces/{id}', { params: { path, query: { revision } }, body: entry, ...under(key) })),
    /** Of one that nobody edits just now. */
    change: (entry: Piece, revision: number) =>
      got(changing.PUT('/api/pieces/{id}', { params: { path, query: { revision } }, body: entry })),
    get: () => got(api.GET('/api/pieces/{id}', { params: { path } })),
    saved: async (piece: PieceKept) => {
      // Another may be at hand by now: what was typed last is saved after the screen was left.
      await show<PieceKept>(client, ['piece'], (at) => (at && at.id !== piece.id ? at : piece));
      void previewsAreOld(client);
      for (const stale of ['history', 'pieces']) void client.invalidateQueries({ queryKey: [stale] });
    },
  };
}

/** All pieces, and what can be done with them. */
export function usePieces() {
  const client = useQueryClient();
  const { data: pieces = [] } = useQuery({
    queryKey: ['pieces'],
    queryFn: () => got(api.GET('/api/pieces')),
  });
  const taken = async (piece: PieceKept) => {
    await show(client, ['piece'], piece);
    await refresh(client);
  };
  return {
    pieces,
    begin: async () => taken(await got(changing.POST('/api/pieces', { body: { name: 'New piece' } }))),
    take: async (id: string) =>
      taken(await got(changing.PUT('/api/pieces/{id}/at-hand', { params: { path: { id } } }))),
    remove: async (id: string, revision: number) => {
      await got(changing.DELETE('/api/pieces/{id}', { params: { path: { id }, query: { revision } } }));
      await refresh(client);
    },
  };
}

const NO_BRIEF = {
  client: null,
  mood: null,
  targets: [],
  photo: null,
  budget: null,
  hours: null,
  due: null,
  lights: [],
};

export const briefOf = (entry: Piece): NonNullable<Piece['brief']> => entry.brief ?? NO_BRIEF;

/** Names have no colour: leaving them out spares a question with every letter typed. */
export const nameless = (entry: Piece): Piece => ({
  ...entry,
  name: 'piece',
  brief: { ...NO_BRIEF, lights: briefOf(entry).lights },
});

/** The size that pictures of a piece are drawn in. */
export const DRAWN = { width: 960, height: 720 };

/** What a scheme of an unsaved piece would look like. */
export function useStanding(entry: Piece, scheme: number) {
  return useLastPreview(useAsk(entry)(scheme));
}

/** What is asked to see a scheme of an unsaved piece. */
function useAsk(entry: Piece) {
  const said = { ...useLook(), units: useUnits() };
  const body = nameless(entry);
  return (scheme: number) => {
    const query = { ...said, scheme, ...DRAWN };
    return {
      queryKey: ['piece', query, body],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        got(api.POST('/api/piece/preview', { params: { query }, body, signal })),
    };
  };
}

/** What each of the schemes of an unsaved piece would look like; nothing of one that is not predicted yet. */
export function useStandings(entry: Piece, schemes: number) {
  const ask = useAsk(entry);
  return useQueries({
    queries: Array.from({ length: schemes }, (_, scheme) => ask(scheme)),
    combine: (answers) => answers.map(({ data }) => data),
  });
}

/** A picture of a piece as a file. */
const picture = (query: object, body: Piece, signal?: AbortSignal) =>
  got(
    api.POST('/api/piece/picture', { params: { query }, body, signal: signal ?? null, parseAs: 'blob' }),
  ) as Promise<unknown> as Promise<Blob>;

/** Where somebody stands before a piece, degrees: to its right (left below 0), and above. */
export interface Turned {
  turn: number;
  up: number;
}

interface Drawn extends Partial<Lit>, Partial<Turned> {
  scheme: number;
  view?: string;
  width?: number;
  height?: number;
  /** In place of the light at hand. */
  light?: string;
}

/** What is shown of a picture of a piece. */
export function usePiecePicture(entry: Piece, drawn: Drawn, at?: Stance) {
  const look = useLook();
  const body = nameless(entry);
  const query = { ...look, ...DRAWN, ...drawn, ...at };
  return usePreviewPicture({
    queryKey: ['piece picture', query, body],
    draw: (how, signal) => picture({ ...query, ...how }, body, signal),
    width: query.width,
    height: query.height,
    at,
  });
}

/** A large picture for the record. */
export function useSavedPicture() {
  const look = useLook();
  return (entry: Piece, scheme: number, from: { view: string } | Turned) =>
    picture({ ...look, scheme, ...from, width: 2400, height: 1800 }, nameless(entry));
}

type UnifyLine = Partial<UnifyStep> & { problem?: ProblemBody };

/** What brings a scheme together, and how far the search is, 0 to 1. Leaving off stops it. */
export function useUnify(entry: Piece, scheme: number) {
  const look = useLook();
  const body = nameless(entry);
  const [done, setDone] = useState(0);
  const found = useQuery({
    queryKey: ['preview', 'unify', look, scheme, body],
    queryFn: async ({ signal }) => {
      setDone(0);
      const headers = { Accept: 'application/x-ndjson' };
      const params = { query: { ...look, scheme } };
      const stream = got(
        api.POST('/api/piece/unify', { params, body, signal, headers, parseAs: 'stream' }),
      ) as Promise<unknown> as Promise<ReadableStream<Uint8Array>>;
      const last = await lastLine<UnifyLine>(await stream, (line) => setDone(line.done ?? 0));
      if (last.problem) throw new Problem(last.problem);
      if (!last.found) throw new Error('the search was left off: try it again');
      return last.found;
    },
    retry: false,
    gcTime: 20_000,
  });
  return { found, done };
}

/** Makes the outline of a stencil from a drawing or a word. */
export function useOutline() {
  return (asked: OutlineAsked) => got(api.POST('/api/piece/outline', { body: asked }));
}
