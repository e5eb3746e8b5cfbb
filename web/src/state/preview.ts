// What is asked again with every change of a draft: predictions and pictures of what is not kept.

import { keepPreviousData, type QueryClient, type QueryKey, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { mayPass } from '../api/insist';
import { type Stance, WHOLE } from '../parts/StepCloser';
import { handIsOn } from './hand';

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

/** How a picture is drawn: its pixels, and whether finely or, sooner, quickly. */
export interface Drawing {
  width: number;
  height: number;
  fine: boolean;
}

interface Picture {
  queryKey: QueryKey;
  draw: (how: Drawing, signal: AbortSignal) => Promise<Blob>;
  /** Pixels. */
  width: number;
  height: number;
  /** From where it is seen, if from closer by than the whole. */
  at?: Stance | undefined;
}

/** From where pictures were drawn that do not show the whole. */
const DRAWN_FROM = new WeakMap<Blob, Stance>();

/** A picture of so many pixels is drawn finely as soon as quickly; one of more than so many is not drawn finely. */
const SMALL = 520 * 260;
const LARGE = 1_050_000;
/** Pixels of one that follows a hand. */
const DRAFT = 480 * 360;

/** How long a hand rests before the picture is drawn in full size, and nothing changes before it is drawn finely, ms. */
const AT_REST = 120;
const STILL = 250;

/** True once it has been the same for so many ms. */
function useStill(what: string, ms: number) {
  const [still, setStill] = useState<string>();
  useEffect(() => {
    const timer = setTimeout(() => setStill(what), ms);
    return () => clearTimeout(timer);
  }, [what, ms]);
  return still === what;
}

/**
 * A smaller picture while a hand moves what it shows: one at a time, and each is shown, so that the picture follows however fast the
 * hand is.
 */
function useDraft({ queryKey, draw, width, height }: Picture, key: string, follows: boolean) {
  const [asked, ask] = useState<{ queryKey: QueryKey; draw: Picture['draw']; key: string }>();
  const scale = Math.min(1, Math.sqrt(DRAFT / (width * height)));
  const size = { width: Math.round(width * scale), height: Math.round(height * scale) };
  const { data, isFetching, isPlaceholderData } = usePreview({
    queryKey: [...(asked?.queryKey ?? []), 'draft'],
    queryFn: ({ signal }) => (asked?.draw ?? draw)({ ...size, fine: false }, signal),
    enabled: asked !== undefined,
  });
  useEffect(() => {
    if (!follows) ask(undefined);
    else if (!isFetching && asked?.key !== key) ask({ queryKey, draw, key });
  });
  return asked && !isPlaceholderData ? data : undefined;
}

interface Shown {
  /** Where the picture is, for as long as it is shown. */
  src: string;
  'data-drawn': 'as a draft' | 'quickly' | 'finely';
}

export interface DrawnPicture extends Omit<LastPreview<Shown>, 'last'> {
  /** The last that was drawn. */
  drawing: Shown | undefined;
  /** From where it was. */
  from: Stance;
}

/**
 * What is shown of a picture. The last one stays until the next is there: a draft as long as a hand moves what it shows, a quick one as
 * soon as it stops, and a fine one when nothing has changed for a while.
 */
export function usePreviewPicture(asked: Picture): DrawnPicture {
  const { queryKey, width, height, at } = asked;
  const draw: Picture['draw'] = async (how, signal) => {
    const blob = await asked.draw(how, signal);
    if (at) DRAWN_FROM.set(blob, at);
    return blob;
  };
  const small = width * height <= SMALL;
  const once = small || width * height > LARGE;
  const key = JSON.stringify(queryKey);
  const rests = useStill(key, AT_REST);
  const still = useStill(key, STILL);
  const changed = useRef({ key, byHand: false });
  if (changed.current.key !== key) changed.current = { key, byHand: handIsOn() };
  const follows = changed.current.byHand && handIsOn() && !rests;
  const draft = useDraft({ ...asked, draw }, key, follows);
  const quick = usePreview({
    queryKey: [...queryKey, 'quick'],
    queryFn: ({ signal }) => draw({ width, height, fine: small }, signal),
    enabled: !follows,
  });
  const fine = usePreview({
    queryKey: [...queryKey, 'fine'],
    queryFn: ({ signal }) => draw({ width, height, fine: true }, signal),
    enabled: !once && still && !quick.isPlaceholderData && quick.data !== undefined,
  });
  // A fine one from before something changed is older than the quick one after.
  const isOld = fine.isPlaceholderData || fine.dataUpdatedAt < quick.dataUpdatedAt;
  const best = isOld ? undefined : fine.data;
  const now = best ?? (quick.isPlaceholderData ? undefined : quick.data);
  const inFull = once || best ? 'finely' : 'quickly';
  // Between two drafts the last one stays.
  const last = useRef<{ blob: Blob; drawn: Shown['data-drawn'] }>(undefined);
  if (now) last.current = { blob: now, drawn: inFull };
  else if (draft) last.current = { blob: draft, drawn: 'as a draft' };
  else if (!last.current && quick.data) last.current = { blob: quick.data, drawn: inFull };
  const { blob, drawn } = last.current ?? {};
  const [{ drawing, from }, setDrawing] = useState<{ drawing?: Shown; from: Stance }>({ from: WHOLE });
  useEffect(() => {
    if (!blob || !drawn) return;
    const src = URL.createObjectURL(blob);
    setDrawing({ drawing: { src, 'data-drawn': drawn }, from: DRAWN_FROM.get(blob) ?? WHOLE });
    return () => URL.revokeObjectURL(src);
  }, [blob, drawn]);
  return { drawing, from, error: quick.error, retry: () => void quick.refetch() };
}
