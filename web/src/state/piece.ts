// The piece at hand: what is kept, what is predicted, what is drawn, what brings it together.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, got, type PieceEntry, type PieceKept } from '../api/client';
import { useLook } from '../light/light';
import { briefOf } from '../screens/piece/entry';
import { refresh } from './workspace';

/** What pieces are made of. */
export function usePieceChoices() {
  return useQuery({
    queryKey: ['piece choices'],
    queryFn: () => got(api.GET('/api/piece/choices')),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}

export function usePieceCalls(id: string) {
  const client = useQueryClient();
  const path = { id };
  return {
    put: (entry: PieceEntry, revision: number) =>
      got(api.PUT('/api/pieces/{id}', { params: { path, query: { revision } }, body: entry })),
    get: () => got(api.GET('/api/pieces/{id}', { params: { path } })),
    saved: (piece: PieceKept) => {
      client.setQueryData(['piece'], piece);
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
    client.setQueryData(['piece'], piece);
    await refresh(client);
  };
  return {
    pieces,
    begin: async () => taken(await got(api.POST('/api/pieces', { body: { name: 'New piece' } }))),
    take: async (id: string) =>
      taken(await got(api.PUT('/api/pieces/{id}/at-hand', { params: { path: { id } } }))),
    remove: async (id: string, revision: number) => {
      await got(api.DELETE('/api/pieces/{id}', { params: { path: { id }, query: { revision } } }));
      await refresh(client);
    },
  };
}

/** Names have no colour: leaving them out spares a question with every letter typed. */
const nameless = (entry: PieceEntry): PieceEntry => ({
  ...entry,
  name: 'piece',
  brief: { ...briefOf(entry), client: null, mood: null, budget: null, hours: null, due: null },
});

/** The size that pictures of a piece are drawn in. */
export const DRAWN = { width: 960, height: 720 };

/** What a scheme of an unsaved piece would look like. */
export function useStanding(entry: PieceEntry, scheme: number) {
  const look = useLook();
  const body = nameless(entry);
  const query = { ...look, scheme, ...DRAWN };
  const asked = useQuery({
    queryKey: ['preview', 'piece', query, body],
    queryFn: ({ signal }) => got(api.POST('/api/piece/preview', { params: { query }, body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
  });
  // What cannot be predicted is told by what is wrong with it; the zones stay where they are.
  const last = useRef(asked.data);
  if (asked.data) last.current = asked.data;
  return { standing: last.current, error: asked.error };
}

interface Drawn {
  scheme: number;
  view: string;
  width?: number;
  height?: number;
  /** In place of the light at hand. */
  light?: string;
}

/** The address of a picture of a piece, for as long as it is shown. The last one stays until the next is there. */
export function usePiecePicture(entry: PieceEntry, drawn: Drawn) {
  const look = useLook();
  const body = nameless(entry);
  const query = { ...look, ...DRAWN, ...drawn };
  const { data: blob, isPlaceholderData } = useQuery({
    queryKey: ['preview', 'piece picture', query, body],
    queryFn: ({ signal }) =>
      got(
        api.POST('/api/piece/picture', { params: { query }, body, signal, parseAs: 'blob' }),
      ) as Promise<unknown> as Promise<Blob>,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 20_000,
  });
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    if (!blob) return;
    const made = URL.createObjectURL(blob);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  return { address, drawing: isPlaceholderData };
}

/** A large picture for the record. */
export function useSavedPicture() {
  const look = useLook();
  return (entry: PieceEntry, scheme: number, view: string) =>
    got(
      api.POST('/api/piece/picture', {
        params: { query: { ...look, scheme, view, width: 2400, height: 1800 } },
        body: nameless(entry),
        parseAs: 'blob',
      }),
    ) as Promise<unknown> as Promise<Blob>;
}

/** What brings a scheme together; asked for only while it is wanted. Leaving off stops the search. */
export function useUnify(entry: PieceEntry, scheme: number, wanted: boolean) {
  const look = useLook();
  const body = nameless(entry);
  return useQuery({
    queryKey: ['preview', 'unify', look, scheme, body],
    queryFn: ({ signal }) =>
      got(api.POST('/api/piece/unify', { params: { query: { ...look, scheme } }, body, signal })),
    enabled: wanted,
    retry: false,
    gcTime: 20_000,
  });
}
