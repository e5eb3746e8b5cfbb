import { useState } from 'react';
import type { MarkedFace, PieceOnPhoto, PiecePhoto } from '../../../api/client';
import { CARDS } from '../../../common/usePhotoInWork';
import { Segments } from '../../../parts/Segments';
import { TroubleLine } from '../../../parts/TroubleLine';
import { snapped } from '../../../state/onPhoto';
import { Handle, type Point } from './Handle';

const FACES: Record<string, string> = { front: 'Front', side: 'Side', top: 'Top' };
const CORNERS = ['upper left', 'upper right', 'lower right', 'lower left'];
/** Radius of the card's circle, in widths of the photo. */
const RADIUS = 0.02;

interface Props {
  photo: PiecePhoto;
  known: PieceOnPhoto;
  /** While a hand is on it. */
  onShow: (photo: PiecePhoto) => void;
  onChange: (photo: PiecePhoto) => void;
  onDone: () => void;
}

/** A first guess of a face that is not marked: beside the front where that is marked. */
function begun(view: string, photo: PiecePhoto, known: PieceOnPhoto): MarkedFace {
  const front = photo.faces?.find((face) => face.view === 'front')?.corners as Point[] | undefined;
  const corners = known.guess?.corners;
  if (view === 'front' && corners) return { view, corners } as MarkedFace;
  const [a, b, c, d] = front ?? ([] as Point[]);
  if (!a || !b || !c || !d) return { view, corners: corners ?? [] } as unknown as MarkedFace;
  const depth = 0.35 * (b[0] - a[0]);
  const beside: Point[] =
    view === 'top'
      ? [[a[0] + 0.1 * depth, a[1] - 0.3 * depth], [b[0] + 0.1 * depth, b[1] - 0.3 * depth], b, a]
      : [b, [b[0] + 0.5 * depth, b[1] - 0.1 * depth], [c[0] + 0.5 * depth, c[1] - 0.2 * depth], c];
  return { view, corners: beside } as unknown as MarkedFace;
}

/** A photo with the corners of the faces and the card to be set. */
export function Marks({ photo, known, onShow, onChange, onDone }: Props) {
  const [view, setView] = useState('front');
  const ratio = known.height / known.width;
  const faces = photo.faces ?? [];
  const marked = faces.find((face) => face.view === view);
  const face =
    view === 'card' ? undefined : (marked ?? (view === 'front' ? begun(view, photo, known) : undefined));
  const card = photo.card ?? (known.likely_card && { kind: 'white' as const, ...known.likely_card });

  const withFace = (next: MarkedFace): PiecePhoto => ({
    ...photo,
    faces: faces.some((one) => one.view === next.view)
      ? faces.map((one) => (one.view === next.view ? next : one))
      : [...faces, next],
  });
  const moved = (from: MarkedFace, i: number, to: Point): MarkedFace => ({
    ...from,
    corners: from.corners.map((corner, j) => (i === j ? to : corner)) as MarkedFace['corners'],
  });
  const drop = async (i: number, to: Point, byHand: boolean) => {
    if (!face) return;
    // A hand sets it down about where it belongs; keys know where.
    const at = byHand ? await snapped(photo.photo, to).catch(() => to) : to;
    onChange(withFace(moved(face, i, at)));
  };
  const done = () => {
    let next = photo;
    if (!faces.some((one) => one.view === 'front')) next = withFace(begun('front', photo, known));
    if (!next.card && card) next = { ...next, card };
    if (next !== photo) onChange(next);
    onDone();
  };
  const url = `/api/photos/kept/${photo.photo}`;
  const steps = [
    ...known.faces.map((id) => ({ id: id as string, name: FACES[id] ?? id })),
    { id: 'card', name: 'Card' },
  ];

  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 lg:flex-row">
      <div className="min-h-0 min-w-0 flex-1 lg:[container-type:size]">
        <div
          className="relative mx-auto touch-none overflow-hidden select-none"
          data-photo
          style={{
            width: `min(100%, 100cqw, calc(100cqh / ${String(ratio)}))`,
            aspectRatio: `${String(known.width)} / ${String(known.height)}`,
          }}
        >
          <img src={url} alt="The piece as it is" draggable={false} className="block h-full w-full" />
          <svg
            aria-hidden
            viewBox={`0 0 1 ${String(ratio)}`}
            className="pointer-events-none absolute inset-0 h-full w-full"
            fill="none"
          >
            {(face && !marked ? [...faces, face] : faces).map((one) => (
              <g key={one.view} opacity={one.view === view ? 1 : 0.55}>
                {['stroke-white', 'stroke-ink'].map((stroke, i) => (
                  <polygon
                    key={stroke}
                    points={one.corners.map(([x, y]) => `${String(x)},${String(y)}`).join(' ')}
                    className={stroke}
                    strokeWidth={i === 0 ? 0.004 : 0.0016}
                    {...(i === 1 && { strokeDasharray: '0.01 0.008' })}
                  />
                ))}
              </g>
            ))}
            {card && (
              <circle cx={card.x} cy={card.y} r={card.radius} className="stroke-ink" strokeWidth={0.002} />
            )}
          </svg>
          {face?.corners.map((corner, i) => (
            <Handle
              // A corner has no other name than its place.
              key={CORNERS[i]}
              name={`${FACES[view] ?? view}, ${CORNERS[i] ?? ''} corner`}
              at={corner as Point}
              ratio={ratio}
              url={url}
              onShow={(to) => onShow(withFace(moved(face, i, to)))}
              onDrop={(to, byHand) => void drop(i, to, byHand)}
            />
          ))}
          {view === 'card' && card && (
            <Handle
              name="Card"
              at={[card.x, card.y]}
              ratio={ratio}
              url={url}
              onShow={([x, y]) => onShow({ ...photo, card: { ...card, x, y } })}
              onDrop={([x, y]) => onChange({ ...photo, card: { ...card, x, y } })}
            />
          )}
        </div>
      </div>
      <div className="grid w-full shrink-0 content-start gap-3 lg:w-72">
        <Segments label="Mark" choices={steps} value={view} onChange={setView} className="flex flex-wrap" />
        {view === 'card' ? (
          <CardMarks
            card={card ?? undefined}
            isProposed={!photo.card && card != null}
            onKind={(kind) =>
              onChange({
                ...photo,
                card: {
                  ...(card ?? { x: 0.5, y: ratio / 2, radius: RADIUS }),
                  kind: kind as 'white' | 'grey',
                },
              })
            }
            onRadius={(by) => card && onChange({ ...photo, card: { ...card, radius: card.radius * by } })}
            onNone={() => onChange({ ...photo, card: null })}
          />
        ) : face ? (
          <>
            <p>
              Drag the four points to the corners of the {FACES[view]?.toLowerCase()}. They snap to the
              nearest corner in the photo; arrow keys move them in small steps.
            </p>
            {view !== 'front' && (
              <button
                type="button"
                className="press press-bare justify-self-start px-0 text-sm underline underline-offset-2"
                onClick={() => onChange({ ...photo, faces: faces.filter((one) => one.view !== view) })}
              >
                The {FACES[view]?.toLowerCase()} can’t be seen
              </button>
            )}
          </>
        ) : (
          <>
            <p>
              Is the {FACES[view]?.toLowerCase()} in the photo? Mark it too, so that the camera is known
              better.
            </p>
            <button
              type="button"
              className="press press-plain justify-self-start"
              onClick={() => onChange(withFace(begun(view, photo, known)))}
            >
              Mark the {FACES[view]?.toLowerCase()}
            </button>
          </>
        )}
        {known.problem && <TroubleLine>{known.problem}</TroubleLine>}
        <button type="button" className="press press-ink justify-self-start" onClick={done}>
          Show the finish
        </button>
      </div>
    </div>
  );
}

interface CardProps {
  card: { kind: string } | undefined;
  /** True where the program found it. */
  isProposed: boolean;
  onKind: (kind: string) => void;
  onRadius: (by: number) => void;
  onNone: () => void;
}

function CardMarks({ card, isProposed, onKind, onRadius, onNone }: CardProps) {
  return (
    <>
      <Segments label="Card in the photo" choices={CARDS} value={card?.kind ?? ''} onChange={onKind} />
      <p>
        {card
          ? isProposed
            ? 'This looks like the card. Drag the point onto it if it is elsewhere.'
            : 'Drag the point onto the card; the circle has to lie within it.'
          : 'Without a card the colours are only approximate.'}
      </p>
      {card && (
        <div className="flex flex-wrap gap-1">
          <button type="button" className="press press-plain" onClick={() => onRadius(0.8)}>
            Smaller
          </button>
          <button type="button" className="press press-plain" onClick={() => onRadius(1.25)}>
            Larger
          </button>
          <button type="button" className="press press-bare px-2 text-sm" onClick={onNone}>
            No card
          </button>
        </div>
      )}
    </>
  );
}
