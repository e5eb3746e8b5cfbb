// Guidance: the first hour, the terms, a chart of colours, and why a prediction is what it is.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useSyncExternalStore } from 'react';
import { api, type Board, got, type MixEntry, type Piece } from '../api/client';
import { useLook } from '../light/light';
import { nameless } from './piece';
import { useHistory } from './workspace';

const FIRST_HOUR = ['first hour'];

/**
 * The steps of the first hour, where they are followed: as long as the engine offers them, or the painter asked for them. Every change may
 * be one of them, so they are asked for again after each; whoever does not follow them asks once.
 */
export function useFirstHour(shown: boolean | undefined) {
  const client = useQueryClient();
  const change = useHistory().data?.undo?.change;
  // biome-ignore lint/correctness/useExhaustiveDependencies: each change asks again.
  useEffect(() => {
    void client.invalidateQueries({ queryKey: FIRST_HOUR });
  }, [client, change]);
  return useQuery({
    queryKey: FIRST_HOUR,
    queryFn: () => got(api.GET('/api/first-hour')),
    enabled: ({ state }) => shown ?? state.data?.offered ?? true,
  }).data;
}

/** Explained terms, with pictures of one paint, or of the tins on the shelf. */
export const useTerms = (wanted: boolean, paint?: string) =>
  useQuery({
    queryKey: ['terms', paint],
    queryFn: () => got(api.GET('/api/terms', { params: { query: paint ? { paint } : {} } })),
    enabled: wanted,
  }).data;

export const useChart = () =>
  useQuery({ queryKey: ['chart'], queryFn: () => got(api.GET('/api/chart')), staleTime: 'static' }).data;

/** Colours around one: the last answer stays until the next is there. */
export const useNeighbours = (hex: string, fine: boolean) =>
  useQuery({
    queryKey: ['neighbours', hex, fine],
    queryFn: () => got(api.GET('/api/neighbours', { params: { query: { hex, fine } } })),
    placeholderData: (before) => before,
    staleTime: 'static',
  }).data;

/** What the prediction of a mix rests on. */
export function useReasons({ components }: MixEntry, wanted: boolean) {
  const look = useLook();
  return useQuery({
    queryKey: ['preview', 'why', look, components],
    queryFn: ({ signal }) =>
      got(api.POST('/api/mixes/why', { params: { query: look }, body: { components }, signal })),
    enabled: wanted,
  });
}

/** What the prediction of a strip rests on. */
export function useBoardReasons(entry: Board, strip: string, wanted: boolean) {
  const query = { ...useLook(), strip };
  return useQuery({
    queryKey: ['preview', 'why', query, entry],
    queryFn: ({ signal }) => got(api.POST('/api/boards/why', { params: { query }, body: entry, signal })),
    enabled: wanted,
  });
}

/** How sure the verdict on a piece is. */
export function usePieceReasons(entry: Piece, scheme: number, wanted: boolean) {
  const query = { ...useLook(), scheme };
  const body = nameless(entry);
  return useQuery({
    queryKey: ['preview', 'why', query, body],
    queryFn: ({ signal }) => got(api.POST('/api/piece/why', { params: { query }, body, signal })),
    enabled: wanted,
  });
}

const KEPT_AS = 'warm-blend first hour';

interface Followed {
  /** True where the painter asked for the steps, false where they were put away; otherwise the engine offers them or not. */
  shown?: boolean;
  skipped: string[];
}

const listeners = new Set<() => void>();
const kept = () => localStorage.getItem(KEPT_AS) ?? '';

function parsed(text: string): Followed {
  try {
    const { shown, skipped } = JSON.parse(text) as Partial<Followed>;
    return {
      ...(typeof shown === 'boolean' && { shown }),
      skipped: Array.isArray(skipped) ? skipped.filter((step) => typeof step === 'string') : [],
    };
  } catch {
    return { skipped: [] };
  }
}

/** How this painter follows the first hour, in this browser. */
export function useFollowed() {
  const text = useSyncExternalStore((hear) => {
    listeners.add(hear);
    return () => listeners.delete(hear);
  }, kept);
  const now = parsed(text);
  const keep = (next: Followed) => {
    localStorage.setItem(KEPT_AS, JSON.stringify(next));
    for (const hear of listeners) hear();
  };
  return {
    ...now,
    skip: (step: string) => keep({ ...now, skipped: [...now.skipped, step] }),
    putAway: () => keep({ ...now, shown: false }),
    takeUp: () => keep({ shown: true, skipped: [] }),
  };
}
