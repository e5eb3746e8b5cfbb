import type { Piece } from '../../../api/client';
import { NotDrawn } from '../../../parts/NotDrawn';
import { ON_SCREEN, usePictureOnPhoto } from '../../../state/onPhoto';

interface Props {
  entry: Piece;
  /** Which of its photos. */
  n: number;
  scheme: number;
  /** Width and height of the photo, pixels. */
  size?: { width: number; height: number };
  /** Width that it is drawn in, pixels. */
  drawn?: number;
}

/** The finish on a photo; the photo as it is until that is drawn. */
export function PhotoPicture({ entry, n, scheme, size = { width: 4, height: 3 }, drawn = ON_SCREEN }: Props) {
  const ratio = size.height / size.width;
  const { drawing, error, retry } = usePictureOnPhoto(entry, { photo: n, scheme, width: drawn }, ratio);
  const shape = { aspectRatio: `${String(size.width)} / ${String(size.height)}` };
  if (error && !drawing)
    return (
      <div style={shape}>
        <NotDrawn error={error} retry={retry} className="h-full" />
      </div>
    );
  if (!drawing)
    return (
      <div role="status" className="relative" style={shape}>
        <img
          src={`/api/photos/kept/${entry.photos?.[n]?.photo ?? ''}`}
          alt="The piece as it is"
          draggable={false}
          className="block h-full w-full object-cover"
        />
        <span className="absolute bottom-2 left-2 bg-panel px-2 py-1 text-sm">Drawing</span>
      </div>
    );
  return (
    <>
      <img
        {...drawing}
        alt="The piece in its finish"
        draggable={false}
        className="block w-full object-cover"
        style={shape}
      />
      {error && <NotDrawn error={error} retry={retry} />}
    </>
  );
}
