// The run sheet of a piece: planned by the server each time it is asked for.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  api,
  type BrushCounted,
  type ClockSet,
  changing,
  got,
  type RunSheetEntry,
  type RunSheetView,
  type SpotMended,
  type StepDone,
  type WashedEntry,
} from '../api/client';
import { useLook, useUnits } from '../light/light';
import { ofTheSame, show } from './cache';

/** How it is looked at, and in which units it is said. */
const useSaid = () => ({ ...useLook(), units: useUnits() });

const key = (piece: string, said: ReturnType<typeof useSaid>) => ['run-sheet', piece, said];

const asked = (piece: string, said: ReturnType<typeof useSaid>) => ({
  queryKey: key(piece, said),
  queryFn: () => got(api.GET('/api/pieces/{id}/run-sheet', { params: { path: { id: piece }, query: said } })),
});

/** Asked again every minute: what can be begun now depends on the clock. */
export function useRunSheet(piece: string | undefined) {
  const said = useSaid();
  return useQuery({
    ...asked(piece ?? '', said),
    placeholderData: ofTheSame(piece),
    enabled: piece !== undefined,
    refetchInterval: 60_000,
  });
}

/** What is on a piece by what was ticked off. */
export function useRecord(piece: string | undefined) {
  const units = useUnits();
  const id = piece ?? '';
  return useQuery({
    queryKey: ['run-sheet', 'record', id, units],
    queryFn: () => got(api.GET('/api/pieces/{id}/record', { params: { path: { id }, query: { units } } })),
    enabled: piece !== undefined,
  });
}

/** How a spot is mended. */
export function useTouchUp(piece: string | undefined, spot: 'chip' | 'palm') {
  const query = { ...useSaid(), spot };
  const id = piece ?? '';
  return useQuery({
    queryKey: ['run-sheet', 'touch-up', id, query],
    queryFn: () => got(api.GET('/api/pieces/{id}/touch-up', { params: { path: { id }, query } })),
    placeholderData: (before) => before,
    enabled: piece !== undefined,
  });
}

export function useRunSheetCalls(piece: string) {
  const client = useQueryClient();
  const said = useSaid();
  const take = async (sheet: RunSheetView) => {
    await show(client, key(piece, said), sheet);
    void client.invalidateQueries({ queryKey: ['history'] });
  };
  return {
    /** Changes what it says by now, which may be newer than what is on the screen. */
    change: async (what: (now: RunSheetEntry) => Partial<RunSheetEntry>) => {
      // In a light that was just chosen nothing is known of it yet.
      const now = await client.ensureQueryData(asked(piece, said));
      const params = { path: { id: piece }, query: { ...said, revision: now.revision } };
      const body = { ...now.entry, ...what(now.entry) };
      await take(await got(changing.PUT('/api/pieces/{id}/run-sheet', { params, body })));
    },
    tick: async (step: StepDone, revision: number) => {
      const params = { path: { id: piece }, query: { ...said, revision } };
      await take(await got(changing.POST('/api/pieces/{id}/run-sheet/done', { params, body: step })));
    },
    clock: async (set: ClockSet, revision: number) => {
      const params = { path: { id: piece }, query: { ...said, revision } };
      await take(await got(changing.POST('/api/pieces/{id}/run-sheet/clock', { params, body: set })));
    },
    /** Marks a brush as washed. */
    wash: async (mark: WashedEntry) => {
      const params = { path: { id: piece }, query: said };
      await take(
        await got(changing.POST('/api/pieces/{id}/run-sheet/brushes/washed', { params, body: mark })),
      );
    },
    countBrushes: async (count: BrushCounted) => {
      const params = { path: { id: piece }, query: said };
      await take(await got(changing.PUT('/api/pieces/{id}/run-sheet/brushes', { params, body: count })));
    },
    /** Notes that a spot was mended. */
    mended: async (spot: SpotMended) => {
      const params = { path: { id: piece }, query: said };
      await got(changing.POST('/api/pieces/{id}/touch-up', { params, body: spot }));
      for (const queryKey of [['run-sheet'], ['log'], ['jars'], ['history']])
        void client.invalidateQueries({ queryKey });
    },
    untick: async (place: number, revision: number) => {
      const params = { path: { id: piece, place }, query: { ...said, revision } };
      await take(await got(changing.DELETE('/api/pieces/{id}/run-sheet/done/{place}', { params })));
    },
  };
}
