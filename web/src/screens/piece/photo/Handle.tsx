import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';

export type Point = [number, number];

/** How far an arrow key moves a point, in widths of the photo; with Shift ten times as far. */
const STEP = 0.001;
/** Side of the loupe, pixels, and how much it enlarges. */
const LOUPE = 120;
const CLOSER = 4;

interface Props {
  name: string;
  /** In widths of the photo. */
  at: Point;
  /** Height of the photo by its width. */
  ratio: number;
  url: string;
  /** While it moves. */
  onShow: (to: Point) => void;
  /** When it is let go, by a hand or by keys. */
  onDrop: (to: Point, byHand: boolean) => void;
}

/** A point on a photo: dragged under a loupe, or moved with the arrow keys. */
export function Handle({ name, at: [x, y], ratio, url, onShow, onDrop }: Props) {
  const from = useRef<{ dx: number; dy: number }>(undefined);
  const [width, setWidth] = useState<number>();
  const frame = (event: PointerEvent<HTMLElement>) =>
    event.currentTarget.closest('[data-photo]')?.getBoundingClientRect();
  const to = (event: PointerEvent<HTMLElement>): Point | undefined => {
    const photo = frame(event);
    if (!from.current || !photo) return undefined;
    return [
      (event.clientX - photo.left) / photo.width + from.current.dx,
      (event.clientY - photo.top) / photo.width + from.current.dy,
    ];
  };
  const key = (event: KeyboardEvent) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!step) return;
    event.preventDefault();
    const by = event.shiftKey ? 10 * STEP : STEP;
    onDrop([x + by * (step[0] ?? 0), y + by * (step[1] ?? 0)], false);
  };
  const over = y > 0.4 * ratio;
  return (
    <button
      type="button"
      aria-label={`${name}: move it with the arrow keys`}
      onPointerDown={(event) => {
        const photo = frame(event);
        if (!photo) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = {
          dx: x - (event.clientX - photo.left) / photo.width,
          dy: y - (event.clientY - photo.top) / photo.width,
        };
        setWidth(photo.width);
      }}
      onPointerMove={(event) => {
        const next = to(event);
        if (next) onShow(next);
      }}
      onPointerUp={(event) => {
        const next = to(event);
        from.current = undefined;
        setWidth(undefined);
        if (next) onDrop(next, true);
      }}
      onPointerCancel={() => {
        from.current = undefined;
        setWidth(undefined);
      }}
      onKeyDown={key}
      className="absolute grid size-11 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none place-items-center rounded-full"
      style={{ left: `${x * 100}%`, top: `${(y / ratio) * 100}%` }}
    >
      <span className="size-4 rounded-full border-2 border-white shadow-[0_0_0_2px_var(--color-ink)]" />
      {width !== undefined && (
        <span
          aria-hidden
          className="pointer-events-none absolute overflow-hidden rounded-full border-3 border-white shadow-[0_0_0_2px_var(--color-ink)]"
          style={{
            width: LOUPE,
            height: LOUPE,
            [over ? 'bottom' : 'top']: 48,
            backgroundImage: `url(${url})`,
            backgroundSize: `${String(CLOSER * width)}px`,
            backgroundPosition: `${String(LOUPE / 2 - CLOSER * width * x)}px ${String(LOUPE / 2 - CLOSER * width * y)}px`,
          }}
        >
          <span className="absolute top-1/2 left-0 h-px w-full bg-white/80" />
          <span className="absolute top-0 left-1/2 h-full w-px bg-white/80" />
        </span>
      )}
    </button>
  );
}
