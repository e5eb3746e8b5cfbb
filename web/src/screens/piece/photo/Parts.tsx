import type { PieceOnPhoto } from '../../../api/client';
import type { Point } from './Handle';
import { Lines } from './Lines';

export type PhotoPart = PieceOnPhoto['parts'][number];

interface Props {
  /** Height of the photo by its width. */
  ratio: number;
  /** What can be chosen; what lies over another comes after it. */
  parts: PhotoPart[];
  /** Those that are outlined. */
  isChosen: (part: PhotoPart) => boolean;
  onChoose: (part: PhotoPart | undefined) => void;
}

/** The parts of the piece over its photo: a touch chooses one, a touch beside them none. The list of parts does the same by keys. */
export function Parts({ ratio, parts, isChosen, onChoose }: Props) {
  const points = (corners: number[][]) => corners.map((corner) => corner.join(',')).join(' ');
  return (
    <>
      <svg aria-hidden viewBox={`0 0 1 ${String(ratio)}`} className="absolute inset-0 h-full w-full">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the list of parts beside it does the same by keyboard */}
        <rect width="1" height={ratio} fill="transparent" onClick={() => onChoose(undefined)} />
        {parts.map((part, n) => (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list of parts beside it does the same by keyboard
          <polygon
            // Round its edge a part is seen more than once.
            key={String(n)}
            points={points(part.corners)}
            fill="transparent"
            className="cursor-pointer"
            onClick={() => onChoose(part)}
          />
        ))}
      </svg>
      <Lines
        ratio={ratio}
        outlines={parts
          .filter((part) => !part.is_round && isChosen(part))
          .map((part) => ({
            id: `${part.view} ${String(part.part)}`,
            points: part.corners as Point[],
            strong: true,
          }))}
        card={undefined}
      />
    </>
  );
}
