import { useGesture } from '@use-gesture/react';
import { useRef } from 'react';
import type { Piece } from '../../api/client';
import { Slide } from '../../parts/Slide';
import type { Turned } from '../../state/piece';
import { Elevation } from './Elevation';

/** Farthest to a side and highest, degrees. */
const MOST_TURN = 80;
const MOST_UP = 60;
/** Degrees for each pixel that a hand moves. */
const BY_HAND = 0.3;

/** From the right and a little above. */
export const BEFORE_IT: Turned = { turn: 35, up: 14 };

const within = (value: number, least: number, most: number) =>
  Math.min(most, Math.max(least, Math.round(value)));

/** Where somebody stands, in words. */
function side(turn: number) {
  if (Math.abs(turn) < 3) return 'in front';
  return `${Math.abs(turn)}° to the ${turn > 0 ? 'right' : 'left'}`;
}

const turned = (next: Turned): Turned => ({
  turn: within(next.turn, -MOST_TURN, MOST_TURN),
  up: within(next.up, 0, MOST_UP),
});

interface Turning {
  from: Turned;
  onTurn: (from: Turned) => void;
}

interface Props extends Turning {
  entry: Piece;
  scheme: number;
}

/** The piece from a corner, turned by a hand on it. */
export function FromCorner({ entry, scheme, from, onTurn }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const now = useRef(from);
  now.current = from;
  const begin = useRef(from);
  useGesture(
    {
      onDrag: ({ first, movement: [dx, dy] }) => {
        if (first) begin.current = now.current;
        const { turn, up } = begin.current;
        onTurn(turned({ turn: turn - BY_HAND * dx, up: up + BY_HAND * dy }));
      },
    },
    { target: frame, drag: { filterTaps: true } },
  );
  return (
    <div ref={frame} className="cursor-grab touch-none active:cursor-grabbing">
      <Elevation entry={entry} scheme={scheme} view="corner" turned={from} />
    </div>
  );
}

/** The same by two sliders, and by keys. */
export function TurnByKeys({ from, onTurn }: Turning) {
  const slide = (label: string, key: keyof Turned, least: number, most: number, shown: string) => (
    <div className="flex min-w-64 flex-1 items-center gap-2">
      <span className="w-14 font-semibold">{label}</span>
      <Slide
        label={label}
        shown={shown}
        value={from[key]}
        from={least}
        to={most}
        step={1}
        onShow={(value) => onTurn({ ...from, [key]: value })}
        className="flex-1"
      />
      <span className="w-28">{shown}</span>
    </div>
  );
  return (
    <div className="flex flex-wrap items-center gap-x-4 text-sm">
      {slide('Turn', 'turn', -MOST_TURN, MOST_TURN, side(from.turn))}
      {slide('Height', 'up', 0, MOST_UP, `${from.up}° above`)}
    </div>
  );
}
