// Pots as they are poured, and the scale under them.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, got, type PourView, Problem } from '../api/client';
import { useLook } from '../light/light';
import { ofTheSame, show } from './cache';

/** How often a pot is looked at while somebody else may pour into it too, and how often the needle is, ms. */
const POT = 2500;
const NEEDLE = 150;

/** The pots of a mix, or all, the last first. */
export function usePours(mix?: string) {
  const look = useLook();
  return useQuery({
    queryKey: ['pours', look, mix],
    queryFn: () => got(api.GET('/api/pours', { params: { query: mix ? { ...look, mix } : look } })),
    placeholderData: keepPreviousData,
  });
}

/** One pot, with amounts said in a measure. */
export function usePour(id: string | undefined, measure: string) {
  const look = useLook();
  return useQuery({
    queryKey: ['pour', id, look, measure],
    queryFn: () =>
      got(
        api.GET('/api/pours/{id}', { params: { path: { id: id as string }, query: { ...look, measure } } }),
      ),
    enabled: id !== undefined,
    placeholderData: ofTheSame(id),
    refetchInterval: (query) => (query.state.data?.finished_at ? false : POT),
  });
}

export function useLabel(id: string, measure: string) {
  const look = useLook();
  return useQuery({
    queryKey: ['label', id, look, measure],
    queryFn: () =>
      got(api.GET('/api/pours/{id}/label', { params: { path: { id }, query: { ...look, measure } } })),
    placeholderData: ofTheSame(id),
  });
}

/** The gesture whose answer was lost, until something else is recorded: made again, it is the same gesture and counts once. */
let lost: { gesture: string; id: string } | undefined;

async function once<T>(gesture: string, send: (id: string) => Promise<T>): Promise<T> {
  const id = lost?.gesture === gesture ? lost.id : crypto.randomUUID();
  try {
    const done = await send(id);
    lost = undefined;
    return done;
  } catch (error) {
    // A problem is an answer: nothing went in.
    lost = error instanceof Problem ? undefined : { gesture, id };
    throw error;
  }
}

/** Everything that can be done with a pot. */
export function usePourCalls(measure: string) {
  const look = useLook();
  const client = useQueryClient();
  const query = { ...look, measure };
  const seen = async (pour: PourView) => {
    // What was recorded no longer counts on the scale: a needle that shows it still would be recorded twice.
    await client.refetchQueries({ queryKey: ['scale'], type: 'active' });
    await show(client, ['pour', pour.id, look, measure], pour);
    for (const stale of ['history', 'pours', 'label']) void client.invalidateQueries({ queryKey: [stale] });
    return pour;
  };
  return {
    begin: async (mix: string, batch_ml: number) =>
      seen(await got(changing.POST('/api/pours', { params: { query }, body: { mix, batch_ml } }))),
    /** Something goes in, or, without a paint, comes out. Sent again with the same id it counts once. */
    step: async (id: string, paint: string | undefined, measure: string, count?: number) =>
      once([id, paint, measure, count].join(' '), async (step) =>
        seen(
          await got(
            changing.POST('/api/pours/{id}/steps', {
              params: { path: { id }, query },
              body: { id: step, paint: paint ?? null, measure, count: count ?? null },
            }),
          ),
        ),
      ),
    takeBack: async (id: string, step: string) =>
      seen(
        await got(changing.DELETE('/api/pours/{id}/steps/{step}', { params: { path: { id, step }, query } })),
      ),
    finish: async (id: string) =>
      seen(await got(changing.POST('/api/pours/{id}/finish', { params: { path: { id }, query } }))),
    place: async (id: string, place: string) =>
      seen(
        await got(
          changing.PUT('/api/pours/{id}/place', { params: { path: { id }, query }, body: { place } }),
        ),
      ),
    remove: async (id: string) => {
      await got(changing.DELETE('/api/pours/{id}', { params: { path: { id } } }));
      for (const stale of ['history', 'pours']) await client.invalidateQueries({ queryKey: [stale] });
    },
  };
}

const SCALE = { queryKey: ['scale'], queryFn: () => got(api.GET('/api/scale')) };

/** Whether a scale is at hand. */
export function useScaleAtHand() {
  return useQuery({ ...SCALE, select: (scale) => scale.name != null, refetchInterval: 5000 }).data ?? false;
}

/** The scale at hand, its needle followed. */
export function useScale() {
  const client = useQueryClient();
  const scale = useQuery({
    ...SCALE,
    refetchInterval: (query) => (query.state.data?.name ? NEEDLE : 5000),
  });
  const after = () => client.refetchQueries({ queryKey: ['scale'] });
  return {
    scale: scale.data,
    begin: async () => {
      await got(api.POST('/api/scale/begin'));
      await after();
    },
    simulate: async (action: string, grams?: number) => {
      await got(api.POST('/api/scale/simulated', { body: { action, grams: grams ?? null } }));
      await after();
    },
  };
}
