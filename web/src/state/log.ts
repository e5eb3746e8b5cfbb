// The log: pages of lines, pots made again, notes.

import { useInfiniteQuery, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, type FinishRequest, got, type LogNoteEntry } from '../api/client';
import { useLook, useUnits } from '../light/light';

/** What narrows the log; all of it holds together. */
export interface Narrowed {
  search?: string;
  kinds?: string;
  piece?: string;
  client?: string;
  paint?: string;
}

export function useLog(narrowed: Narrowed) {
  const look = useLook();
  const units = useUnits();
  return useInfiniteQuery({
    queryKey: ['log', narrowed, look, units],
    queryFn: ({ pageParam }) =>
      got(
        api.GET('/api/log', {
          params: { query: { ...narrowed, ...look, units, ...(pageParam ? { before: pageParam } : {}) } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) => last.more ?? undefined,
    placeholderData: (before) => before,
    // Every screen writes into it.
    staleTime: 0,
  });
}

/** The photos of a piece on its way, the oldest first. */
export function usePhotosOf(piece: string) {
  return (
    useQuery({
      queryKey: ['log', 'photos', piece],
      queryFn: () => got(api.GET('/api/pieces/{id}/photos', { params: { path: { id: piece } } })),
      staleTime: 0,
    }).data ?? []
  );
}

/** What would come of a line today. */
export function useAgain(line: number | undefined) {
  const look = useLook();
  return useQuery({
    queryKey: ['log', 'again', line, look],
    queryFn: () =>
      got(api.GET('/api/log/{line}/again', { params: { path: { line: line ?? 0 }, query: look } })),
    enabled: line !== undefined,
  });
}

/** Pots that look like a colour. */
export function useLike(hex: string | undefined) {
  const look = useLook();
  return useQuery({
    queryKey: ['log', 'like', hex, look],
    queryFn: () => got(api.GET('/api/log/like', { params: { query: { hex: hex ?? '', ...look } } })),
    enabled: hex !== undefined,
    retry: false,
    placeholderData: (before) => before,
  });
}

/** Each of the last readings against what had been said of it. */
export const useTruth = () =>
  useQuery({ queryKey: ['log', 'truth'], queryFn: () => got(api.GET('/api/log/truth')) });

/** What was learned of this painter's hand and pace, as it came. */
export const useSkills = () =>
  useQuery({ queryKey: ['log', 'skills'], queryFn: () => got(api.GET('/api/log/skills')) });

export function useNoteCalls() {
  const client = useQueryClient();
  const look = useLook();
  return {
    write: async (note: LogNoteEntry) => {
      const kept = await got(changing.POST('/api/notes', { body: note }));
      for (const stale of ['log', 'history']) void client.invalidateQueries({ queryKey: [stale] });
      return kept;
    },
    /** The finish on a photo of a piece, in the state at hand. */
    readFinish: (piece: string, asked: FinishRequest) =>
      got(
        api.POST('/api/pieces/{id}/on-photo', {
          params: { path: { id: piece }, query: { state: look.state } },
          body: asked,
        }),
      ),
  };
}
