import type { PiecePrediction } from '../../api/client';

const WIDE = 320;
const TALL = 210;
const LEFT = 22;
const BELOW = 22;
/** How strong a colour is at the right edge. */
const STRONG = 60;

/** About how wide a letter of a name is. */
const WIDE_LETTER = 6.8;

/** Where a name of such a length stands: to the right of its dot, to the left, or below, where there is room. */
function beside(x: number, y: number, r: number, length: number) {
  if (x + r + 4 + length < WIDE) return { x: x + r + 4, y: y + 4, textAnchor: 'start' as const };
  if (x - r - 4 - length > LEFT) return { x: x - r - 4, y: y + 4, textAnchor: 'end' as const };
  const middle = Math.min(Math.max(x, length / 2 + 4), WIDE - length / 2 - 4);
  return { x: middle, y: y + r + 14, textAnchor: 'middle' as const };
}

interface Dot {
  zone: string;
  name: string;
  hex: string;
  x: number;
  y: number;
  r: number;
}

/** Lightness against strength: each zone as large as its share, neighbours joined, what is off in black. */
export function DepthMap({ standing }: { standing: PiecePrediction }) {
  const dots: Dot[] = standing.zones.flatMap(({ zone, name, seen, share, chroma }) => {
    if (!seen) return [];
    const [l = 0] = seen.lab;
    return [
      {
        zone,
        name,
        hex: seen.hex,
        x: LEFT + 14 + (Math.min(chroma ?? 0, STRONG) / STRONG) * (WIDE - LEFT - 40),
        y: 10 + (1 - l / 100) * (TALL - BELOW - 20),
        r: 5 + 22 * Math.sqrt(share),
      },
    ];
  });
  const at = (zone: string) => dots.find((dot) => dot.zone === zone);
  // Dots that lie on each other share a name.
  const named: { x: number; y: number; r: number; names: string[] }[] = [];
  for (const dot of [...dots].sort((one, other) => other.r - one.r)) {
    const near = named.find((one) => Math.hypot(one.x - dot.x, one.y - dot.y) < 22);
    if (near) near.names.push(dot.name.toLowerCase());
    else named.push({ x: dot.x, y: dot.y, r: dot.r, names: [dot.name] });
  }
  return (
    <figure>
      <svg
        role="img"
        aria-label={`Map of the palette: ${dots.map(({ name }) => name).join(', ')}`}
        viewBox={`0 0 ${WIDE} ${TALL}`}
        className="block w-full bg-panel"
      >
        <g className="fill-soft" fontSize={12}>
          <text x={4} y={14}>
            light
          </text>
          <text x={4} y={TALL - BELOW - 4}>
            dark
          </text>
          <text x={LEFT + 10} y={TALL - 6}>
            grey
          </text>
          <text x={WIDE - 6} y={TALL - 6} textAnchor="end">
            strong
          </text>
        </g>
        {standing.pairs.map((pair) => {
          const [one, other] = [at(pair.one), at(pair.other)];
          if (!one || !other) return null;
          return (
            <line
              key={pair.name}
              x1={one.x}
              y1={one.y}
              x2={other.x}
              y2={other.y}
              strokeWidth={0.5 + pair.contrast / 12}
              className={pair.stands === 'in' ? 'stroke-line' : 'stroke-ink'}
              strokeDasharray={pair.stands === 'near' ? '3 3' : undefined}
            />
          );
        })}
        {[...dots]
          .sort((one, other) => other.r - one.r)
          .map((dot) => (
            <circle key={dot.zone} cx={dot.x} cy={dot.y} r={dot.r} fill={dot.hex} />
          ))}
        <g className="fill-ink" fontSize={12} fontWeight={600}>
          {named.map(({ x, y, r, names }) => {
            const words =
              names.length > 3
                ? `${names.slice(0, 2).join(', ')} and ${String(names.length - 2)} more`
                : names.join(', ');
            return (
              <text key={words} {...beside(x, y, r, WIDE_LETTER * words.length)}>
                {words}
              </text>
            );
          })}
        </g>
      </svg>
    </figure>
  );
}
