import type { Board } from '../../api/client';
import type { Lit } from '../../parts/Lamp';
import { InPlace } from '../../parts/LookClosely';
import { NotDrawn } from '../../parts/NotDrawn';
import type { Stance } from '../../parts/StepCloser';
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
  /** From where it is looked at where it fills the screen. */
  at?: Stance;
  /** What it is called by who cannot see it, if not by its strip. */
  alt?: string;
}

/** A strip, or all of them side by side, as it is drawn. */
export function Picture({ entry, letter, layers, lit, all, small, width, at, alt }: Props) {
  const height = width / 2;
  const drawn = { strip: letter, layers, width, height, ...lit, all };
  const { drawing, from, error, retry } = usePicture(entry, drawn, at);
  const shape = small ? 'h-44 xl:aspect-2/1 xl:h-auto' : 'aspect-2/1 h-auto';
  if (error && !drawing) return <NotDrawn error={error} retry={retry} className={shape} />;
  return drawing ? (
    <>
      <InPlace at={at} drawn={from}>
        <img
          {...drawing}
          width={width}
          height={height}
          draggable={false}
          className={`w-full object-cover ${shape}`}
          alt={alt ?? (all ? 'All strips side by side' : `Strip ${letter} as it will look`)}
        />
      </InPlace>
      {error && <NotDrawn error={error} retry={retry} />}
    </>
  ) : (
    <div role="status" className={`w-full animate-pulse bg-panel ${shape}`}>
      <span className="sr-only">Drawing</span>
    </div>
  );
}
