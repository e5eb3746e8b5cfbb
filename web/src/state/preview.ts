// What is asked again with every change of a draft: predictions and pictures of what is not kept.

import { keepPreviousData, type QueryClient, type QueryKey, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { mayPass } from '../api/insist';

interface Asked<T> {
  queryKey: QueryKey;
  queryFn: (asked: { signal: AbortSignal }) => Promise<T>;
  enabled?: boolean;
}

/** An answer that is soon replaced: the last one stays until the next is there, and is not kept for long. */
export function usePreview<T>({ queryKey, ...asked }: Asked<T>) {
  return useQuery({
    queryKey: ['preview', ...queryKey],
    ...asked,
    placeholderData: keepPreviousData,
    // What is busy, or was lost on its way, is asked for again; what was refused is not.
    retry: (failed, error) => failed < 2 && mayPass(error),
    retryDelay: 400,
    gcTime: 20_000,
    // It hangs on the draft, which is its key, and on what is kept: whoever changes that says so.
    staleTime: Number.POSITIVE_INFINITY,
    refetchOnWindowFocus: false,
  });
}

/** Something kept has changed of which what is seen now shows nothing: other previews are asked again when they are next looked at. */
export function previewsAreOld(client: QueryClient) {
  return client.invalidateQueries({ queryKey: ['preview'], refetchType: 'none' });
}

export interface LastPreview<T> {
  /** The last answer that there was. */
  last: T | undefined;
  /** Why there is none to what is asked now. */
  error: Error | null;
  retry: () => void;
}

/** The last answer that there was stays where the newest cannot be had, beside why. */
export function useLastPreview<T>(asked: Asked<T>): LastPreview<T> {
  const { data, error, refetch } = usePreview(asked);
  const last = useRef(data);
  if (data !== undefined) last.current = data;
  return { last: last.current, error, retry: () => void refetch() };
}

interface Picture {
  queryKey: QueryKey;
  /** Drawn finely or, sooner, quickly. */
  draw: (fine: boolean, signal: AbortSignal) => Promise<Blob>;
  /** Pixels. */
  width: number;
  height: number;
}

/** A picture of so many pixels is drawn finely as soon as quickly; one of more than so many is not drawn finely. */
const SMALL = 520 * 260;
const LARGE = 1_050_000;

/** How long nothing changes before a picture is drawn finely, ms. */
const STILL = 250;

/** True once it has been the same for a while. */
function useStill(what: string) {
  const [still, setStill] = useState<string>();
  useEffect(() => {
    const timer = setTimeout(() => setStill(what), STILL);
    return () => clearTimeout(timer);
  }, [what]);
  return still === what;
}

export interface Drawing {
  /** Where the picture is, for as long as it is shown. */
  src: string;
  /** Whether it is the fine one. */
  'data-drawn': 'quickly' | 'finely';
}

export interface DrawnPicture extends Omit<LastPreview<Drawing>, 'last'> {
  /** The last that was drawn. */
  drawing: Drawing | undefined;
}

/**
 * What is shown of a picture. The last one stays until the next is there; when nothing has changed for
 * a while, a fine one takes its place.
 */
export function usePreviewPicture({ queryKey, draw, width, height }: Picture): DrawnPicture {
  const small = width * height <= SMALL;
  const once = small || width * height > LARGE;
  const still = useStill(JSON.stringify(queryKey));
  const quick = usePreview({
    queryKey: [...queryKey, 'quick'],
    queryFn: ({ signal }) => draw(small, signal),
  });
  const fine = usePreview({
    queryKey: [...queryKey, 'fine'],
    queryFn: ({ signal }) => draw(true, signal),
    enabled: !once && still && !quick.isPlaceholderData && quick.data !== undefined,
  });
  // A fine one from before something changed is older than the quick one after.
  const isOld = fine.isPlaceholderData || fine.dataUpdatedAt < quick.dataUpdatedAt;
  const best = isOld ? undefined : fine.data;
  const blob = best ?? quick.data;
  const finely = once || best !== undefined;
  const [drawing, setDrawing] = useState<Drawing>();
  useEffect(() => {
    if (!blob) return;
    const src = URL.createObjectURL(blob);
    setDrawing({ src, 'data-drawn': finely ? 'finely' : 'quickly' });
    return () => URL.revokeObjectURL(src);
  }, [blob, finely]);
  return { drawing, error: quick.error, retry: () => void quick.refetch() };
}
