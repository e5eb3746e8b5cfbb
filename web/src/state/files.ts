// Files in: sent as they are; the engine reads them.

import { useQueryClient } from '@tanstack/react-query';
import { api, type Class, changing, got } from '../api/client';
import { useLook } from '../light/light';
import { usePreview } from './preview';
import { refresh } from './workspace';

/** A body that is a file. */
export const asBytes = {
  bodySerializer: (body: unknown) => body as Blob,
  headers: { 'content-type': 'application/octet-stream' },
};

/** How a file is to be taken. */
export interface How {
  /** Class of paints that are not on the shelf yet. */
  kind: Class;
  /** Whether reflectance above 1 is percent; undefined until it was asked. */
  percent: boolean | undefined;
  /** What its samples were read with; `stated` leaves it to each of them. */
  source: 'stated' | 'reader' | 'chip' | 'photo' | 'guess';
}

export function useImport() {
  const client = useQueryClient();
  const how = (file: File, { kind, percent, source }: How) => ({
    params: {
      query: {
        class: kind,
        file: file.name,
        ...(percent === undefined ? {} : { percent }),
        ...(source === 'stated' ? {} : { source }),
      },
    },
    body: file as never,
    ...asBytes,
  });
  return {
    preview: (file: File, asked: How) => got(api.POST('/api/import/preview', how(file, asked))),
    /** Rows that cannot be read have been shown by then: they are left out. */
    carryOut: async (file: File, asked: How) => {
      const { params, ...rest } = how(file, asked);
      const query = { ...params.query, without_bad: true };
      const done = await got(changing.POST('/api/import', { params: { query }, ...rest }));
      await refresh(client);
      return done;
    },
  };
}

export function usePhotos() {
  return {
    keep: (file: File) => got(changing.POST('/api/photos/kept', { body: file as never, ...asBytes })),
    bring: (file: File) => got(api.POST('/api/photos', { body: file as never, ...asBytes })),
    pick: (id: string, card: string, card_at: Spot, spots: Spot[]) =>
      got(api.POST('/api/photos/{id}/pick', { params: { path: { id } }, body: { card, card_at, spots } })),
  };
}

/** What is asked of a photo: which, and where its card lies. */
export interface OfPhoto {
  id: string;
  card: string;
  spot: Spot;
}

/** The main colours of a photo and what would make them, in the light at hand. */
export function usePhotoPalette(asked: OfPhoto | undefined) {
  const look = useLook();
  const { id = '', card = '', spot = { x: 0, y: 0, radius: 0 } } = asked ?? {};
  return usePreview({
    queryKey: ['palette', look, asked],
    queryFn: ({ signal }) =>
      got(
        api.POST('/api/photos/{id}/palette', {
          params: { path: { id }, query: look },
          body: { card, card_at: spot },
          signal,
        }),
      ),
    enabled: asked !== undefined,
  });
}

/** A round spot of a photo, in widths of the photo. */
export interface Spot {
  x: number;
  y: number;
  radius: number;
}
