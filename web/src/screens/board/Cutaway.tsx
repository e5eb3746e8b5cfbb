import type { StripPrediction } from '../../api/client';
import { plainNumber } from '../../parts/numbers';
import type { Place } from './entry';

const ROOM = 56;
const MOST = 16;

/** How high a film is drawn: by the root of its thickness, so that a wax of 2 µm can be seen beside a coat of 90. */
const high = (um: number) => Math.min(MOST, Math.max(2, Math.sqrt(um) * 1.2));

/** How high ridges are drawn, by the root of the texture. */
const roughness = (um: number) => Math.min(5, 0.4 * Math.sqrt(um));

/** A line across a section with ridges of such a height, always the same ones. */
const ridge = (y: number, height: number) =>
  Array.from({ length: 41 }, (_, n) => {
    const up = 0.6 * Math.sin(n * 1.9) + 0.4 * Math.sin(n * 4.7 + 1);
    return `${5 * n},${(y - height * up).toFixed(1)}`;
  }).join(' ');

/** The films at a place in section, not to scale: how thick each is stands with its layer. */
export function Cutaway({ strip, place }: { strip: StripPrediction; place: Place }) {
  const films = strip.layers.filter((layer) => layer.hex && !layer.muted && layer.print.cover[place] > 0);
  const heights = films.map((layer) => high(layer.print.film[place]));
  const scale = Math.min(
    1,
    (ROOM - 6) /
      Math.max(
        1,
        heights.reduce((sum, height) => sum + height, 0),
      ),
  );
  let base = ROOM - 6;
  const words = films
    .map((layer) => `${layer.technique} ${plainNumber(Math.round(layer.print.film[place]))} µm`)
    .join(', ');
  return (
    <svg
      role="img"
      aria-label={`Films from the ground up: ${words || 'none'}`}
      viewBox={`0 0 200 ${ROOM}`}
      className="w-full"
    >
      <rect x={0} y={ROOM - 6} width={200} height={6} className="fill-edge" />
      {films.map((layer, i) => {
        const height = (heights[i] ?? 0) * scale;
        base -= height;
        const cover = layer.print.cover[place];
        const pieces = cover >= 0.99 ? 1 : 7;
        if (pieces === 1) {
          const below = i > 0 ? roughness(films[i - 1]?.texture_um ?? 0) : 0;
          return (
            <path
              key={layer.id}
              fill={layer.hex ?? 'none'}
              d={`M${ridge(base, roughness(layer.texture_um))} L${ridge(base + height, below)
                .split(' ')
                .reverse()
                .join(' ')} Z`}
            />
          );
        }
        return Array.from({ length: pieces }, (_, piece) => (
          <rect
            key={`${layer.id} ${String(piece)}`}
            x={(200 / pieces) * (piece + (pieces > 1 ? ((i * 0.37) % 1) * (1 - cover) : 0))}
            y={base}
            width={(200 / pieces) * cover}
            height={height}
            fill={layer.hex ?? 'none'}
          />
        ));
      })}
    </svg>
  );
}
