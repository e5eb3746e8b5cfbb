import type { RemedyView } from '../../api/client';
import { PLACES } from './entry';

interface WayProps {
  way: RemedyView;
  before: string[];
  source: string;
  stale: boolean;
  onTake: () => void;
}

/** A way to do it: as it is above, as it would be below, place by place. */
export function Way({ way, before, source, stale, onTake }: WayProps) {
  return (
    <li className="grid grid-cols-[9rem_minmax(0,1fr)_auto] items-center gap-3 bg-ground py-1 pr-2">
      <span
        role="img"
        aria-label={`Before: ${before.join(', ')}. After: ${way.after.join(', ')}`}
        className="flex h-14"
      >
        {PLACES.map((place, i) => (
          <span key={place} className="flex flex-1 flex-col">
            <span className="flex-1" style={{ background: before[i] }} />
            <span className="flex-1" style={{ background: way.after[i] }} />
          </span>
        ))}
      </span>
      <span className="min-w-0 text-sm leading-tight">
        <b className="block text-base font-semibold">{way.words}</b>
        <span className="block first-letter:uppercase">{way.moves}</span>
        <span className="block text-soft first-letter:uppercase">
          {way.why} ({source})
        </span>
      </span>
      <button
        type="button"
        className="press press-ink text-sm"
        aria-label={`Apply: ${way.words}`}
        disabled={stale}
        onClick={onTake}
      >
        Apply
      </button>
    </li>
  );
}
