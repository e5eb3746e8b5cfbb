// The log of readings and the colour reader.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, got, type ReadingEntry, type ReadingKept, type ToRead } from '../api/client';
import { refresh } from './workspace';

/** How many of the last readings can be chosen from: older ones are found in the log. */
const LAST = 250;

/** The last readings, the last first, while they are looked at. */
export function useReadings(looking: boolean) {
  return useQuery({
    queryKey: ['readings'],
    queryFn: () => got(api.GET('/api/readings', { params: { query: { count: LAST } } })),
    enabled: looking,
  });
}

/** The reader at hand; undefined until it is known. */
export const useReader = () =>
  useQuery({
    queryKey: ['reader'],
    queryFn: () => got(api.GET('/api/reader')),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;

/** Everything that can be done with readings. A reading changes what is known of every mix, so all is asked for again. */
export function useReadingCalls() {
  const client = useQueryClient();
  const params = (reading: ReadingKept) => ({
    path: { id: reading.id },
    query: { revision: reading.revision },
  });
  return {
    read: (sample: ToRead) => got(api.POST('/api/reader/read', { body: sample })),
    calibrate: () => got(api.POST('/api/reader/calibrate')),
    make: async (entry: ReadingEntry) => {
      const made = await got(changing.POST('/api/readings', { body: entry }));
      await refresh(client);
      return made;
    },
    insist: async (reading: ReadingKept) => {
      const body = { ...reading.entry, sure: true };
      await got(changing.PUT('/api/readings/{id}', { params: params(reading), body }));
      await refresh(client);
    },
    remove: async (reading: ReadingKept) => {
      await got(changing.DELETE('/api/readings/{id}', { params: params(reading) }));
      await refresh(client);
    },
  };
}
