import type { Piece, PiecePrediction } from '../../api/client';
import type { Lit } from '../../parts/Lamp';
import { InPlace } from '../../parts/LookClosely';
import { NotDrawn } from '../../parts/NotDrawn';
import type { Stance } from '../../parts/StepCloser';
import { DRAWN, type Turned, usePiecePicture } from '../../state/piece';

/** Pixels of one that fills the screen. */
const LARGE = { width: 1440, height: 1080 };

interface Props {
  entry: Piece;
  scheme: number;
  view: string;
  /** From which corner, in place of a view. */
  turned?: Turned | undefined;
  face?: PiecePrediction['faces'][number] | undefined;
  /** The zone whose parts are outlined. */
  chosen?: string | undefined;
  onChoose?: (zone: string) => void;
  /** From where it is looked at where it fills the screen. */
  at?: Stance;
  /** In place of the light at hand. */
  light?: string;
  /** How it is shaded, if not by the window. */
  lit?: Lit;
}

/** A face of the piece as it will look. A touch on a part chooses its zone; the list of zones does the same by keys. */
export function Elevation({ entry, scheme, view, turned, face, chosen, onChoose, at, light, lit }: Props) {
  const size = at ? LARGE : DRAWN;
  const { drawing, from, error, retry } = usePiecePicture(
    entry,
    { scheme, ...(turned ?? { view }), ...size, ...lit, ...(light ? { light } : {}) },
    at,
  );
  if (error && !drawing) return <NotDrawn error={error} retry={retry} className="aspect-4/3" />;
  if (!drawing)
    return (
      <div role="status" className="aspect-4/3 w-full animate-pulse bg-panel">
        <span className="sr-only">Drawing</span>
      </div>
    );
  return (
    <>
      <div className="relative">
        <InPlace at={at} drawn={from}>
          <img
            {...drawing}
            {...size}
            draggable={false}
            className="block h-auto w-full"
            alt={`The piece from the ${view}, as it will look`}
          />
        </InPlace>
        {face && (
          <svg
            aria-hidden
            viewBox={`0 0 ${DRAWN.width} ${DRAWN.height}`}
            className="absolute inset-0 h-full w-full"
          >
            {face.parts.map(({ zone, at: [x = 0, y = 0, w = 0, h = 0] }, n) => (
              // biome-ignore lint/a11y/noStaticElementInteractions: the list of zones beside it does the same by keyboard
              <rect
                // A part has no other name than its place in the drawing.
                key={`${zone} ${String(n)}`}
                x={x * DRAWN.width}
                y={y * DRAWN.height}
                width={w * DRAWN.width}
                height={h * DRAWN.height}
                fill="transparent"
                className="cursor-pointer"
                onClick={() => onChoose?.(zone)}
              />
            ))}
            {face.parts
              .filter(({ zone }) => zone === chosen)
              .map(({ at: [x = 0, y = 0, w = 0, h = 0] }, n) => (
                <g key={String(n)} className="pointer-events-none" fill="none">
                  {[
                    { className: 'stroke-white', strokeWidth: 3 },
                    { className: 'stroke-ink', strokeWidth: 1.5, strokeDasharray: '7 5' },
                  ].map((line) => (
                    <rect
                      key={line.className}
                      x={x * DRAWN.width - 3}
                      y={y * DRAWN.height - 3}
                      width={w * DRAWN.width + 6}
                      height={h * DRAWN.height + 6}
                      {...line}
                    />
                  ))}
                </g>
              ))}
          </svg>
        )}
      </div>
      {error && <NotDrawn error={error} retry={retry} />}
    </>
  );
}
