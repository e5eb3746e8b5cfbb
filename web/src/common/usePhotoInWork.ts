import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, got } from '../api/client';
import { why } from '../parts/useAction';
import { type Spot, usePhotos } from '../state/files';
import { useUnsent } from '../state/unsaved';
import { RADIUS } from './PhotoSpots';

export const CARDS = [
  { id: 'white', name: 'White card' },
  { id: 'grey', name: 'Grey card' },
] as const;

interface InWork {
  card: string;
  photo?: {
    id: string;
    /** Height by width. */
    ratio: number;
    /** Whether the program has found what looks like a card. */
    proposed: boolean;
  };
  /** The card's first. */
  spots: Spot[];
  /** Where the card lies is said by a person: what the program takes for it is a proposal. */
  placed: boolean;
}

const NOTHING: InWork = { card: 'white', spots: [], placed: false };

/**
 * A photo that colours are being found in, with a card and so many other spots: it outlives the screen and a reload, until its colours
 * are taken or the program has let go of it.
 */
export function usePhotoInWork(name: string, others: number) {
  const photos = usePhotos();
  const [work, set, clear] = useUnsent<InWork>(`photo ${name}`, NOTHING);
  const { url, lost } = useSeen(work.photo?.id);
  return {
    ...work,
    photo: work.photo && url ? { ...work.photo, url } : undefined,
    /** Why a photo that was chosen is not there. */
    lost,
    clear,
    bring: async (file: File) => {
      const { id, width, height, likely_card } = await photos.bring(file);
      const ratio = height / width;
      const free = (i: number) => ({ x: (i + 1) / (others + 2), y: ratio / 2, radius: RADIUS });
      const spots = Array.from({ length: others + 1 }, (_, i) => (i === 0 && likely_card) || free(i));
      set({ ...work, photo: { id, ratio, proposed: likely_card != null }, spots, placed: false });
    },
    chooseCard: (card: string) => set({ ...work, card }),
    confirm: () => set({ ...work, placed: true }),
    move: (i: number, x: number, y: number) =>
      set({
        ...work,
        placed: work.placed || i === 0,
        spots: work.spots.map((spot, j) => (j === i ? { ...spot, x, y } : spot)),
      }),
  };
}

/** A photo as the program has it: it keeps the last few only, and none when it is stopped. */
function useSeen(id: string | undefined) {
  const photo = useQuery({
    queryKey: ['photo', id],
    queryFn: () => got(api.GET('/api/photos/{id}', { params: { path: { id: id ?? '' } }, parseAs: 'blob' })),
    enabled: id !== undefined,
    staleTime: 'static',
    retry: false,
  });
  const data = photo.data as Blob | undefined;
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    if (!data) return;
    const made = URL.createObjectURL(data);
    setUrl(made);
    return () => {
      URL.revokeObjectURL(made);
      setUrl(undefined);
    };
  }, [data]);
  return { url, lost: photo.error ? why(photo.error) : undefined };
}
