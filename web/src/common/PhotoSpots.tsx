import type { KeyboardEvent, MouseEvent, PointerEvent } from 'react';
import { useRef } from 'react';
import { Segments } from '../parts/Segments';
import type { Spot } from '../state/files';

/** Radius of a spot, in widths of the photo, and how far an arrow key moves it. */
export const RADIUS = 0.025;
const STEP = 0.01;

interface Props {
  url: string;
  /** Height by width. */
  ratio: number;
  /** What each spot lies on. */
  names: string[];
  spots: Spot[];
  /** Whose turn it is to be set down by a tap. */
  placing: number;
  onPlacing: (i: number) => void;
  onMove: (i: number, x: number, y: number) => void;
  /** Numbers where something was found. */
  marks?: { x: number; y: number }[] | undefined;
}

/** A photo with spots on it: set down by a tap, dragged, or moved with the arrow keys. */
export function PhotoSpots({ url, ratio, names, spots, placing, onPlacing, onMove, marks = [] }: Props) {
  const move = (i: number, x: number, y: number) => {
    const inside = (v: number, most: number) => Math.min(most, Math.max(0, v));
    onMove(i, inside(x, 1), inside(y, ratio));
  };
  /** Where the photo is tapped the spot is put whose turn it is. */
  const put = (event: MouseEvent<HTMLElement>) => {
    const frame = event.currentTarget.getBoundingClientRect();
    move(placing, (event.clientX - frame.left) / frame.width, (event.clientY - frame.top) / frame.width);
    onPlacing((placing + 1) % names.length);
  };
  return (
    <>
      {names.length > 1 && (
        <Segments
          label="Spot to place"
          choices={names.map((name, i) => ({ id: String(i), name: `Tap ${name}` }))}
          value={String(placing)}
          onChange={(i) => onPlacing(Number(i))}
          className="flex flex-wrap"
        />
      )}
      {/* All of it is to be seen at once, also of a picture that stands upright. */}
      <div
        className="relative overflow-hidden"
        style={{ maxWidth: `max(16rem, calc(64dvh / ${String(ratio)}))` }}
        data-photo
      >
        {/* biome-ignore lint/a11y/useKeyWithClickEvents: by keys the spots themselves are moved */}
        <img
          src={url}
          alt="Your sample with the card"
          className="block w-full cursor-crosshair"
          draggable={false}
          onClick={put}
        />
        {marks.map(({ x, y }, n) => (
          <span
            key={`${String(x)} ${String(y)}`}
            aria-hidden
            className="pointer-events-none absolute -translate-x-1/2 -translate-y-1/2 rounded-full bg-ink px-2 text-sm font-semibold text-white"
            style={{ left: `${x * 100}%`, top: `${(y / ratio) * 100}%` }}
          >
            {n + 1}
          </span>
        ))}
        {spots.map((spot, i) => (
          <SpotHandle
            key={names[i]}
            name={names[i] ?? ''}
            spot={spot}
            ratio={ratio}
            onMove={(x, y) => move(i, x, y)}
          />
        ))}
      </div>
    </>
  );
}

interface SpotProps {
  name: string;
  spot: Spot;
  ratio: number;
  onMove: (x: number, y: number) => void;
}

/** A ring that says what lies in it. */
function SpotHandle({ name, spot, ratio, onMove }: SpotProps) {
  const held = useRef(false);
  const drag = (event: PointerEvent<HTMLButtonElement>) => {
    const frame = event.currentTarget.closest('[data-photo]')?.getBoundingClientRect();
    if (!held.current || !frame) return;
    onMove((event.clientX - frame.left) / frame.width, (event.clientY - frame.top) / frame.width);
  };
  const key = (event: KeyboardEvent) => {
    const step = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP] }[
      event.key
    ];
    if (!step) return;
    event.preventDefault();
    onMove(spot.x + (step[0] ?? 0), spot.y + (step[1] ?? 0));
  };
  return (
    <button
      type="button"
      aria-label={`Spot on ${name}: move it with the arrow keys`}
      onPointerDown={(event) => {
        held.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={drag}
      onPointerUp={() => {
        held.current = false;
      }}
      onPointerCancel={() => {
        held.current = false;
      }}
      // Touched where it is, it lies there.
      onClick={() => onMove(spot.x, spot.y)}
      onKeyDown={key}
      className="absolute size-11 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none rounded-full border-3 border-white shadow-[0_0_0_2px_var(--color-ink)]"
      style={{ left: `${spot.x * 100}%`, top: `${(spot.y / ratio) * 100}%` }}
    >
      <span className="pointer-events-none absolute left-1/2 top-full mt-1 -translate-x-1/2 rounded-xs bg-ink px-1.5 text-xs whitespace-nowrap text-white">
        {name}
      </span>
    </button>
  );
}
