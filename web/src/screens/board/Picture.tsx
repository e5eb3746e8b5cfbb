import type { Board } from '../../api/client';
import type { Lit } from '../../parts/Lamp';
import { NotDrawn } from '../../parts/NotDrawn';
import { usePicture } from '../../state/boards';

interface Props {
  entry: Board;
  letter: string;
  layers: number | undefined;
  lit: Lit;
  all: boolean;
  /** True where only a band of it is shown. */
  small: boolean;
  width: number;
  /** What it is called by who cannot see it, if not by its strip. */
  alt?: string;
}

/** A strip, or all of them side by side, as it is drawn. */
export function Picture({ entry, letter, layers, lit, all, small, width, alt }: Props) {
  const height = width / 2;
  const { drawing, error, retry } = usePicture(entry, {
    strip: letter,
    layers,
    width,
    height,
    ...lit,
    all,
  });
  const shape = small ? 'h-44 xl:aspect-2/1 xl:h-auto' : 'aspect-2/1 h-auto';
  if (error && !drawing) return <NotDrawn error={error} retry={retry} className={shape} />;
  return drawing ? (
    <>
      <img
        {...drawing}
        width={width}
        height={height}
        draggable={false}
        className={`w-full object-cover ${shape}`}
        alt={alt ?? (all ? 'All strips side by side' : `Strip ${letter} as it will look`)}
      />
      {error && <NotDrawn error={error} retry={retry} />}
    </>
  ) : (
    <div role="status" className={`w-full animate-pulse bg-panel ${shape}`}>
      <span className="sr-only">Drawing</span>
    </div>
  );
}
