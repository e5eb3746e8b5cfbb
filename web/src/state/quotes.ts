// Quotes: what a piece that does not exist yet would take and cost, the client's yes, and what became of them.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, got, type QuoteAsked } from '../api/client';
import { useLook, useUnits } from '../light/light';
import { show } from './cache';
import { useMe } from './network';
import { DRAWN } from './piece';
import { useLastPreview, usePreviewPicture } from './preview';
import { refresh } from './workspace';

const KEY = ['quotes'];

/** A guest, who may be another client, is not shown them. */
export function useQuotes() {
  const enabled = useMe().data?.role !== 'guest';
  return useQuery({ queryKey: KEY, queryFn: () => got(api.GET('/api/quotes')), staleTime: 0, enabled });
}

/** What is asked, without the names: they change nothing of it. */
const nameless = (asked: QuoteAsked): QuoteAsked => ({ ...asked, name: null, client: null });

/** What it takes and costs. */
export function useQuote(asked: QuoteAsked) {
  const query = { units: useUnits() };
  const body = nameless(asked);
  return useLastPreview({
    queryKey: ['quote', query, body],
    queryFn: ({ signal }) => got(api.POST('/api/quotes/preview', { params: { query }, body, signal })),
  });
}

/** The piece in its finishes. */
export function useQuotePicture(asked: QuoteAsked) {
  const look = useLook();
  const body = nameless(asked);
  return usePreviewPicture({
    queryKey: ['quote picture', look, body],
    draw: (how, signal) =>
      got(
        api.POST('/api/quotes/picture', {
          params: { query: { ...look, ...how } },
          body,
          signal,
          parseAs: 'blob',
        }),
      ) as Promise<unknown> as Promise<Blob>,
    ...DRAWN,
  });
}

export function useQuoteCalls() {
  const client = useQueryClient();
  const changed = async () => {
    await refresh(client);
    await client.invalidateQueries({ queryKey: KEY });
  };
  return {
    save: async (body: QuoteAsked) => {
      const piece = await got(changing.POST('/api/quotes', { body }));
      await show(client, ['piece'], piece);
      await changed();
      return piece;
    },
    accept: async (id: string, revision: number, name: string) => {
      await got(
        changing.PUT('/api/pieces/{id}/quote/accepted', {
          params: { path: { id }, query: { revision } },
          body: { name },
        }),
      );
      await changed();
    },
  };
}
