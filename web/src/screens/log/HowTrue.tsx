import { Link } from 'react-router';
import type { TruthView } from '../../api/client';
import { deltaE } from '../../parts/numbers';
import { clockOf } from '../../parts/times';
import { useTruth } from '../../state/log';

const clock = clockOf(undefined);
const [WIDE, HIGH, FOOT] = [320, 120, 16];

/** Predicted against read over time: greys only, because paint stands beside it. */
export function HowTrue() {
  const { data } = useTruth();
  if (!data || data.readings.length === 0) return null;
  return (
    <section aria-label="Prediction accuracy" className="grid gap-2">
      <h2 className="text-lg">Prediction accuracy</h2>
      <p>{data.words}</p>
      {data.mixes && <p className="text-sm text-soft">{data.mixes}</p>}
      <Plot truth={data} />
      {data.worst.length > 0 && (
        <ul aria-label="Surprises" className="grid gap-px">
          {data.worst.map((one) => (
            <li key={one.reading} className="bg-panel px-3 py-2 leading-tight">
              <Link to={`/shelf/${one.paint}`} className="font-semibold hover:underline">
                {one.name}
              </Link>
              <p className="text-sm first-letter:uppercase">
                {one.words}; {one.since}.
              </p>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Each reading as a dot at its distance from what was said, over the bar of what was said. */
function Plot({ truth: { readings } }: { truth: TruthView }) {
  const most = Math.max(4, ...readings.map(({ difference, within }) => Math.max(difference, within)));
  const step = (WIDE - 24) / readings.length;
  // By the root: a single wrong dab does not flatten all others.
  const y = (value: number) => (HIGH - FOOT) * (1 - Math.sqrt(value / most)) + 6;
  const marks = [0, 1, 4, 10, 30].filter((value) => value < 0.8 * most);
  const [first, last] = [readings[0], readings.at(-1)];
  return (
    <figure className="grid gap-1">
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} role="img" aria-label="Each reading against its prediction">
        <line x1="20" x2={WIDE} y1={y(0)} y2={y(0)} className="stroke-ink" />
        {marks.map((value) => (
          <text key={value} x="16" y={y(value) + 4} textAnchor="end" className="fill-soft text-[10px]">
            {value}
          </text>
        ))}
        {readings.map(({ reading, difference, within, held, name }, n) => {
          const x = 22 + step * (n + 0.5);
          return (
            <g key={reading}>
              <title>
                {name}: off by {deltaE(difference)}, predicted ±{deltaE(within)}
              </title>
              <rect
                x={x - Math.min(7, step * 0.4)}
                width={Math.min(14, step * 0.8)}
                y={y(within)}
                height={y(0) - y(within)}
                className="fill-line"
              />
              <circle
                cx={x}
                cy={y(difference)}
                r={Math.min(4.5, Math.max(1.5, step * 0.4))}
                strokeWidth="1.5"
                className={held ? 'fill-ink stroke-ink' : 'fill-white stroke-ink'}
              />
            </g>
          );
        })}
      </svg>
      <figcaption className="grid text-sm text-soft">
        <span className="flex justify-between">
          <span>{first && clock.short(first.at)}</span>
          <span>{last && last !== first && clock.short(last.at)}</span>
        </span>
        <span>Dot: how far off, ΔE. Bar: the predicted range.</span>
      </figcaption>
    </figure>
  );
}
