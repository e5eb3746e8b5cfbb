// A piece on photos of it: what is known of a photo, and the finish shown on it.

import { api, got, type PartPlaced, type Piece, type PiecePhoto } from '../api/client';
import { useLook, useUnits } from '../light/light';
import { nameless, useSavedPicture } from './piece';
import { useLastPreview, usePreviewPicture } from './preview';

/** Widths that the finish is drawn in: on the screen, while a hand is on it, and for keeping. */
export const ON_SCREEN = 1200;
export const KEPT = 1600;

/** What is known of a photo of an unsaved piece. */
export function usePhotoOfPiece(entry: Piece, photo: number) {
  // What it wears does not change where it stands.
  const body = { ...nameless(entry), schemes: [], chosen: 0 };
  const query = { photo, units: useUnits() };
  return useLastPreview({
    queryKey: ['on photo', query, body],
    queryFn: ({ signal }) => got(api.POST('/api/piece/on-photo', { params: { query }, body, signal })),
  });
}

interface Drawn {
  photo: number;
  scheme: number;
  width: number;
}

const picture = (query: object, body: Piece, signal?: AbortSignal) =>
  got(
    api.POST('/api/piece/on-photo/picture', {
      params: { query: query as Drawn & { fine: boolean } },
      body,
      signal: signal ?? null,
      parseAs: 'blob',
    }),
  ) as Promise<unknown> as Promise<Blob>;

/** The finish on a photo; `ratio` is the photo's height by its width. */
export function usePictureOnPhoto(entry: Piece, drawn: Drawn, ratio: number) {
  const look = useLook();
  const body = nameless(entry);
  const query = { ...look, ...drawn };
  return usePreviewPicture({
    queryKey: ['picture on photo', query, body],
    draw: ({ width, fine }, signal) => picture({ ...query, width, fine }, body, signal),
    width: drawn.width,
    // One that is larger than the screen is drawn finely too.
    height: Math.min(drawn.width * ratio, 870),
  });
}

/** A large picture for keeping. */
export function useSavedOnPhoto() {
  const look = useLook();
  return (entry: Piece, photo: number, scheme: number) =>
    picture({ ...look, photo, scheme, width: KEPT, fine: true }, nameless(entry));
}

/** The strongest corner near a point of a saved photo, or the point itself. */
export async function snapped(photo: string, [x, y]: [number, number]): Promise<[number, number]> {
  const at = await got(
    api.POST('/api/photos/kept/{id}/snap', { params: { path: { id: photo } }, body: { x, y } }),
  );
  return [at.x, at.y];
}

/** The parts of a piece that lie elsewhere than in the drawing, once one of them lies here on a photo of it. */
export const placed = (piece: Piece, photo: number, to: PartPlaced) =>
  got(
    api.POST('/api/piece/on-photo/part', {
      params: { query: { photo } },
      body: { piece: nameless(piece), to },
    }),
  );

/** Whether a finish can be shown on a photo: once the front is marked. */
export const hasFront = ({ faces }: PiecePhoto) => faces?.some(({ view }) => view === 'front') ?? false;

/** The first photo of a piece that its finish can be shown on; −1 if there is none. */
export const shownOn = (entry: Piece) => (entry.photos ?? []).findIndex(hasFront);

/** A picture of what a client agrees to: the finish on a photo of the piece, or the drawing. */
export function useAgreedPicture() {
  const onPhoto = useSavedOnPhoto();
  const drawn = useSavedPicture();
  return async (entry: Piece, scheme: number): Promise<File | undefined> => {
    if (!entry.form) return undefined;
    const photo = shownOn(entry);
    const picture = await (photo < 0
      ? drawn(entry, scheme, { view: 'front' })
      : onPhoto(entry, photo, scheme));
    return new File([picture], 'agreed.png', { type: picture.type });
  };
}
