import { useEffect, useState } from 'react';
import type { MarkedFace, Piece, PieceOnPhoto, PiecePhoto, Problem } from '../../../api/client';
import { Segments } from '../../../parts/Segments';
import { TroubleLine } from '../../../parts/TroubleLine';
import { hasFront, placed, snapped } from '../../../state/onPhoto';
import { CardMarks } from './CardMarks';
import { Fitting } from './Fitting';
import { Handle, type Point } from './Handle';
import { HiddenMarks } from './HiddenMarks';
import { Lines } from './Lines';
import { idOf, PartMarks } from './PartMarks';
import { Parts, type PhotoPart } from './Parts';

const FACES: Record<string, string> = { front: 'Front', side: 'Side', top: 'Top' };
const CORNERS = ['upper left', 'upper right', 'lower right', 'lower left'];
/** Radius of the card's circle, in widths of the photo. */
const RADIUS = 0.02;

interface Props {
  entry: Piece;
  /** Which of its photos. */
  n: number;
  photo: PiecePhoto;
  known: PieceOnPhoto;
  /** What is wrong with the piece. */
  problem: Problem | undefined;
  onChange: (photo: PiecePhoto) => void;
  onPiece: (change: Partial<Piece>) => void;
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

/** The corners of a part after one of two opposite ones has moved, its sides as they run. */
function stretched(corners: Point[], i: number, [x, y]: Point): Point[] {
  const at = (n: number): Point => corners[(i + n) % 4] ?? [0, 0];
  const [corner, next, last] = [at(0), at(1), at(3)];
  const [ux, uy] = [next[0] - corner[0], next[1] - corner[1]];
  const [vx, vy] = [last[0] - corner[0], last[1] - corner[1]];
  const [dx, dy] = [x - corner[0], y - corner[1]];
  const area = ux * vy - uy * vx || 1;
  const [along, down] = [(dx * vy - dy * vx) / area, (ux * dy - uy * dx) / area];
  return corners.map((old, n) => {
    if (n === i) return [x, y];
    if (n === (i + 1) % 4) return [old[0] + down * vx, old[1] + down * vy];
    if (n === (i + 3) % 4) return [old[0] + along * ux, old[1] + along * uy];
    return old;
  });
}

/** A photo with the corners of the faces and the card to be set. */
export function Marks({ entry, n, photo: kept, known, problem, onChange, onPiece, onDone }: Props) {
  /** The marks while a hand is on them: the program is asked about them when it lets go. */
  const [held, hold] = useState<PiecePhoto>();
  const photo = held ?? kept;
  const change = (next: PiecePhoto) => {
    hold(undefined);
    onChange(next);
  };
  const [view, setView] = useState('front');
  const [part, setPart] = useState<string>();
  /** The part at hand while a hand is on it. */
  const [pulled, pull] = useState<PhotoPart>();
  const moveable = known.parts.filter((one) => one.moves);
  const atHand = view === 'parts' ? (pulled ?? moveable.find((one) => idOf(one) === part)) : undefined;
  const place = async (corners: Point[]) => {
    if (!atHand) return;
    const [upperLeft, , lowerRight] = corners;
    if (!upperLeft || !lowerRight) return;
    const to = { view: atHand.view, part: atHand.part, upper_left: upperLeft, lower_right: lowerRight };
    // Where it cannot lie it stays where it was.
    const moved = await placed(entry, n, to).catch(() => undefined);
    if (moved && JSON.stringify(moved) !== JSON.stringify(entry.moved)) onPiece({ moved });
    else pull(undefined);
  };
  // It stays where the hand left it until the new outlines arrive.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new answer is what is waited for
  useEffect(() => pull(undefined), [known]);
  /** True once somebody has said that there is no card. */
  const [declined, decline] = useState(false);
  const ratio = known.height / known.width;
  const faces = photo.faces ?? [];
  const marked = faces.find((face) => face.view === view);
  const face =
    view === 'card' || view === 'parts'
      ? undefined
      : (marked ?? (view === 'front' ? begun(view, photo, known) : undefined));
  const card =
    photo.card ?? (declined ? null : known.likely_card && { kind: 'white' as const, ...known.likely_card });
  const hidden = (photo.hidden ?? []) as Point[][];
  const outline = view === 'hidden' ? hidden.at(-1) : undefined;
  const withPoint = (i: number, to: Point): PiecePhoto => ({
    ...photo,
    hidden: hidden.map((one, n) =>
      n === hidden.length - 1 ? one.map((point, j) => (i === j ? to : point)) : one,
    ) as NonNullable<PiecePhoto['hidden']>,
  });

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
    change(withFace(moved(face, i, at)));
  };
  const done = () => {
    let next = photo;
    if (!hasFront(photo)) next = withFace(begun('front', photo, known));
    if (!next.card && card) next = { ...next, card };
    if (next !== photo) change(next);
    onDone();
  };
  const url = `/api/photos/kept/${photo.photo}`;
  const steps = [
    ...known.faces.map((id) => ({ id: id as string, name: FACES[id] ?? id })),
    { id: 'card', name: 'Card' },
    { id: 'parts', name: 'Parts' },
    { id: 'hidden', name: 'In front' },
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
          <Lines
            ratio={ratio}
            outlines={[
              ...(face && !marked ? [...faces, face] : faces).map((one) => ({
                id: one.view,
                points: one.corners as Point[],
                strong: one.view === view,
              })),
              ...hidden.map((points, n) => ({
                id: `hidden ${String(n)}`,
                points,
                strong: points === outline,
              })),
            ]}
            card={card ?? undefined}
          />
          {view === 'parts' && (
            <Parts
              ratio={ratio}
              parts={atHand ? [...moveable.filter((one) => idOf(one) !== idOf(atHand)), atHand] : moveable}
              isChosen={(one) => one === atHand}
              onChoose={(one) => setPart(one && idOf(one))}
            />
          )}
          {atHand &&
            [0, 2].map((i) => (
              <Handle
                key={i}
                name={`${atHand.name}, ${CORNERS[i] ?? ''} corner`}
                at={atHand.corners[i] as Point}
                ratio={ratio}
                url={url}
                onShow={(to) =>
                  pull({
                    ...atHand,
                    corners: stretched(atHand.corners as Point[], i, to) as PhotoPart['corners'],
                  })
                }
                onDrop={(to) => void place(stretched(atHand.corners as Point[], i, to))}
              />
            ))}
          {face?.corners.map((corner, i) => (
            <Handle
              // A corner has no other name than its place.
              key={CORNERS[i]}
              name={`${FACES[view] ?? view}, ${CORNERS[i] ?? ''} corner`}
              at={corner as Point}
              ratio={ratio}
              url={url}
              onShow={(to) => hold(withFace(moved(face, i, to)))}
              onDrop={(to, byHand) => void drop(i, to, byHand)}
            />
          ))}
          {outline?.map((point, i) => (
            <Handle
              // A point has no other name than its place.
              key={String(i)}
              name={`Outline, point ${String(i + 1)}`}
              at={point}
              ratio={ratio}
              url={url}
              onShow={(to) => hold(withPoint(i, to))}
              onDrop={(to) => change(withPoint(i, to))}
            />
          ))}
          {view === 'card' && card && (
            <Handle
              name="Card"
              at={[card.x, card.y]}
              ratio={ratio}
              url={url}
              onShow={([x, y]) => hold({ ...photo, card: { ...card, x, y } })}
              onDrop={([x, y]) => change({ ...photo, card: { ...card, x, y } })}
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
            pointer={`/photos/${String(n)}`}
            problem={problem}
            onKind={(kind) => {
              const at = card ?? { x: 0.5, y: ratio / 2, radius: RADIUS };
              change({ ...photo, card: { ...at, colour: null, ...kind } });
            }}
            onRadius={(by) => card && change({ ...photo, card: { ...card, radius: card.radius * by } })}
            onNone={() => {
              decline(true);
              change({ ...photo, card: null });
            }}
          />
        ) : view === 'parts' ? (
          <PartMarks
            parts={moveable}
            chosen={atHand}
            moved={entry.moved ?? []}
            onChoose={(one) => setPart(idOf(one))}
            onDrawn={() => onPiece({ moved: [] })}
          />
        ) : view === 'hidden' ? (
          <HiddenMarks
            outlines={hidden}
            middle={[0.5, ratio / 2]}
            onChange={(next) => change({ ...photo, hidden: next as NonNullable<PiecePhoto['hidden']> })}
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
                onClick={() => change({ ...photo, faces: faces.filter((one) => one.view !== view) })}
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
              onClick={() => change(withFace(begun(view, photo, known)))}
            >
              Mark the {FACES[view]?.toLowerCase()}
            </button>
          </>
        )}
        <Fitting known={known} onForm={(form) => onPiece({ form })} />
        {known.problem && !known.fitting && <TroubleLine>{known.problem}</TroubleLine>}
        <button type="button" className="press press-ink justify-self-start" onClick={done}>
          Show the finish
        </button>
      </div>
    </div>
  );
}
