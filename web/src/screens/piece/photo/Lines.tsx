import type { Point } from './Handle';

interface Props {
  /** Height of the photo by its width. */
  ratio: number;
  /** Closed lines in widths of the photo; those at hand are strong. */
  outlines: { id: string; points: Point[]; strong: boolean }[];
  card: { x: number; y: number; radius: number } | undefined;
}

/** The marks on a photo as lines, seen on light and dark. */
export function Lines({ ratio, outlines, card }: Props) {
  return (
    <svg
      aria-hidden
      viewBox={`0 0 1 ${String(ratio)}`}
      className="pointer-events-none absolute inset-0 h-full w-full"
      fill="none"
    >
      {outlines.map(({ id, points, strong }) => (
        <g key={id} opacity={strong ? 1 : 0.55}>
          {['stroke-white', 'stroke-ink'].map((stroke, i) => (
            <polygon
              key={stroke}
              points={points.map(([x, y]) => `${String(x)},${String(y)}`).join(' ')}
              className={stroke}
              strokeWidth={i === 0 ? 0.004 : 0.0016}
              {...(i === 1 && { strokeDasharray: '0.01 0.008' })}
            />
          ))}
        </g>
      ))}
      {card && <circle cx={card.x} cy={card.y} r={card.radius} className="stroke-ink" strokeWidth={0.002} />}
    </svg>
  );
}
