import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, ZoomIn, ZoomOut } from 'lucide-react';

/** Where one stands before a picture: how many times closer than the whole, and its middle in shares of it. */
export interface Stance {
  closer: number;
  x: number;
  y: number;
}

export const WHOLE: Stance = { closer: 1, x: 0.5, y: 0.5 };
/** How many times closer one can stand. */
export const MOST = 8;

/** No further back than the whole, and no closer than there is something to see. */
const held = (closer: number) => Math.min(MOST, Math.max(1, closer));

/** A stance that has no view past the rim. */
export function stance(closer: number, x: number, y: number): Stance {
  const by = held(closer);
  const within = (share: number) => Math.min(1 - 0.5 / by, Math.max(0.5 / by, share));
  return { closer: by, x: within(x), y: within(y) };
}

/** No closer than so many times. */
export const noCloser = (at: Stance, most: number): Stance =>
  at.closer > most ? stance(most, at.x, at.y) : at;

/** The same `by` times closer about a point of what is seen, in shares of it. */
export function closerAbout({ closer, x, y }: Stance, by: number, px: number, py: number): Stance {
  const next = held(closer * by);
  const gain = 1 / closer - 1 / next;
  return stance(next, x + (px - 0.5) * gain, y + (py - 0.5) * gain);
}

/** How a picture drawn from one stance is moved and scaled to lie where it belongs when it is seen from another. */
export const seenFrom = (drawn: Stance, at: Stance) =>
  `translate(${String(100 * at.closer * (drawn.x - at.x))}%, ${String(100 * at.closer * (drawn.y - at.y))}%) scale(${String(at.closer / drawn.closer)})`;

interface Props {
  at: Stance;
  onStand: (at: Stance) => void;
  most?: number;
}

/** Buttons that step up to a picture, back, and aside. */
export function StepCloser({ at, onStand, most = MOST }: Props) {
  const aside = (dx: number, dy: number) =>
    onStand(stance(at.closer, at.x + (0.25 * dx) / at.closer, at.y + (0.25 * dy) / at.closer));
  const moves = [
    { name: 'Move left', icon: ArrowLeft, act: () => aside(-1, 0) },
    { name: 'Move right', icon: ArrowRight, act: () => aside(1, 0) },
    { name: 'Move up', icon: ArrowUp, act: () => aside(0, -1) },
    { name: 'Move down', icon: ArrowDown, act: () => aside(0, 1) },
  ];
  return (
    <>
      <button
        type="button"
        className="press press-plain"
        disabled={at.closer >= most}
        onClick={() => onStand(stance(2 * at.closer, at.x, at.y))}
      >
        <ZoomIn size={20} aria-hidden /> Zoom in
      </button>
      <button
        type="button"
        className="press press-plain"
        disabled={at.closer <= 1}
        onClick={() => onStand(stance(at.closer / 2, at.x, at.y))}
      >
        <ZoomOut size={20} aria-hidden /> Zoom out
      </button>
      {moves.map(({ name, icon: Icon, act }) => (
        <button
          key={name}
          type="button"
          className="press press-bare px-0"
          aria-label={name}
          disabled={at.closer <= 1}
          onClick={act}
        >
          <Icon size={20} aria-hidden />
        </button>
      ))}
    </>
  );
}
