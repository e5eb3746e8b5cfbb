import type { PiecePrediction } from '../../api/client';
import { plainNumber } from '../../parts/numbers';

/** Colours mixed anew, and how far apart that brings them. */
export function Pulls({ pulls }: Pick<PiecePrediction, 'pulls'>) {
  return (
    <ul className="grid gap-2">
      {pulls.map((pull) => (
        <li key={pull.words} className="leading-tight">
          <span className="block font-semibold">{pull.words}</span>
          <span className="block text-sm text-soft">
            {pull.recipe}; {plainNumber(Math.round(pull.before))} apart becomes{' '}
            {plainNumber(Math.round(pull.after))}
          </span>
        </li>
      ))}
    </ul>
  );
}
