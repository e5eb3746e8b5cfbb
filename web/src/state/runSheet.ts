// The run sheet of a piece: planned by the server each time it is asked for.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, got, type RunSheetEntry, type RunSheetView, type StepDone } from '../api/client';
import { useLook } from '../light/light';

type Look = ReturnType<typeof useLook>;

const key = (piece: string, look: Look) => ['run-sheet', piece, look];

/** Asked again every minute: what can be begun now depends on the clock. */
export function useRunSheet(piece: string | undefined) {
  const look = useLook();
  return useQuery({
    queryKey: key(piece ?? '', look),
    queryFn: () =>
      got(api.GET('/api/pieces/{id}/run-sheet', { params: { path: { id: piece ?? '' }, query: look } })),
    placeholderData: keepPreviousData,
    enabled: piece !== undefined,
    refetchInterval: 60_000,
  });
}

export function useRunSheetCalls(piece: string) {
  const client = useQueryClient();
  const look = useLook();
  const take = (sheet: RunSheetView) => {
    client.setQueryData(key(piece, look), sheet);
    void client.invalidateQueries({ queryKey: ['history'] });
  };
  return {
    change: async (entry: RunSheetEntry, revision: number) => {
      const params = { path: { id: piece }, query: { ...look, revision } };
      take(await got(api.PUT('/api/pieces/{id}/run-sheet', { params, body: entry })));
    },
    tick: async (step: StepDone, revision: number) => {
      const params = { path: { id: piece }, query: { ...look, revision } };
      take(await got(api.POST('/api/pieces/{id}/run-sheet/done', { params, body: step })));
    },
    untick: async (place: number, revision: number) => {
      const params = { path: { id: piece, place }, query: { ...look, revision } };
      take(await got(api.DELETE('/api/pieces/{id}/run-sheet/done/{place}', { params })));
    },
  };
}
