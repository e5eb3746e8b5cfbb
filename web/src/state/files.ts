// Files in: sent as they are; the engine reads them.

import { useQueryClient } from '@tanstack/react-query';
import { api, got } from '../api/client';
import { refresh } from './workspace';

const asBytes = {
  bodySerializer: (body: unknown) => body as Blob,
  headers: { 'content-type': 'application/octet-stream' },
};

export function useImport() {
  const client = useQueryClient();
  const how = (file: File, kind: string, percent: boolean | undefined) => ({
    params: { query: { class: kind, file: file.name, ...(percent === undefined ? {} : { percent }) } },
    body: file as never,
    ...asBytes,
  });
  return {
    preview: (file: File, kind: string, percent: boolean | undefined) =>
      got(api.POST('/api/import/preview', how(file, kind, percent))),
    carryOut: async (file: File, kind: string, percent: boolean | undefined) => {
      const done = await got(api.POST('/api/import', how(file, kind, percent)));
      await refresh(client);
      return done;
    },
  };
}

export function usePhotos() {
  return {
    keep: (file: File) => got(api.POST('/api/photos/kept', { body: file as never, ...asBytes })),
    bring: (file: File) => got(api.POST('/api/photos', { body: file as never, ...asBytes })),
    pick: (id: string, card: string, card_at: Spot, spots: Spot[]) =>
      got(api.POST('/api/photos/{id}/pick', { params: { path: { id } }, body: { card, card_at, spots } })),
  };
}

/** A round spot of a photo, in widths of the photo. */
export interface Spot {
  x: number;
  y: number;
  radius: number;
}
