import { Link } from 'react-router';
import type { Form, PieceChoices } from '../../api/client';
import { LookRound } from '../../common/LookRound';
import { keyed } from '../../parts/keyed';
import { usePaints } from '../../state/workspace';

/** Says first what the piece is. */
export function Begin({ choices, onBegin }: { choices: PieceChoices; onBegin: (form: Form) => void }) {
  const nothing = usePaints().data?.length === 0;
  return (
    <section aria-label="What is it?" className="grid max-w-4xl gap-3 px-4 pt-2 pb-6 md:px-5">
      <h1 className="text-3xl">What is it?</h1>
      <p className="max-w-prose text-soft">
        Pick the closest shape. Next you give a few dimensions, then choose a finish for each part. Only asked
        what it would cost?{' '}
        <Link to="/quotes" className="text-ink underline underline-offset-3">
          Quote it
        </Link>{' '}
        first.
      </p>
      <ul data-mark="kinds of piece" className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
        {choices.kinds.map((kind) => (
          <li key={kind.id}>
            <button
              type="button"
              className="press press-plain min-h-20 w-full justify-start gap-4 text-left"
              onClick={() => onBegin(kind.usual)}
            >
              <Front {...kind.front} />
              <span>
                <span className="block font-semibold">{kind.name}</span>
                <span className="block text-sm font-normal text-soft">usually {kind.size}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      {nothing && <LookRound />}
    </section>
  );
}

/** A front in outline, in true proportion. */
function Front({ width, height, parts }: PieceChoices['kinds'][number]['front']) {
  const rim = 0.02 * Math.max(width, height);
  return (
    <svg
      aria-hidden
      viewBox={`${-rim} ${-rim} ${width + 2 * rim} ${height + 2 * rim}`}
      className="h-14 w-20 shrink-0 stroke-ink"
      fill="none"
    >
      {keyed(parts, (part) => part.join(' ')).map(({ key, item: [x = 0, y = 0, w = 0, h = 0] }) => (
        <rect key={key} x={x} y={y} width={w} height={h} vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
}
