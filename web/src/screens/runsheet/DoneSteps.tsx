import { Check, Undo2 } from 'lucide-react';
import type { RunSheetView } from '../../api/client';
import { type clockOf, lasting } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import { useRunSheetCalls } from '../../state/runSheet';

interface Props {
  piece: string;
  sheet: RunSheetView;
  clock: ReturnType<typeof clockOf>;
}

/** What was done, the last first; a tick can be taken back. */
export function DoneSteps({ piece, sheet, clock }: Props) {
  const calls = useRunSheetCalls(piece);
  const { attempt, busy } = useAction();
  if (sheet.done.length === 0) return null;
  return (
    <details className="print:hidden">
      <summary className="min-h-11 cursor-pointer py-2.5 text-sm font-semibold">
        {sheet.done.length} of {sheet.done.length + sheet.steps.length}{' '}
        {sheet.done.length + sheet.steps.length === 1 ? 'step' : 'steps'} done. Last:{' '}
        {sheet.done[0]?.name.toLowerCase()}
      </summary>
      <ol className="grid gap-px pb-2">
        {sheet.done.map((done) => (
          <li key={done.at_place} className="flex items-center gap-3 px-3">
            <Check size={18} aria-hidden className="shrink-0" />
            <div className="min-w-0 flex-1 py-1 leading-tight">
              <p>
                <span className="font-semibold">{done.name}</span>
                {done.pot && <span className="text-sm">, {done.pot}</span>}
              </p>
              <p className="text-sm text-soft">
                {clock.both(done.at)}
                {done.minutes != null && `, took ${lasting(done.minutes)} (usual: ${lasting(done.usual)})`}
                {done.zones.length > 0 && ` · ${done.zones.join(', ')}`}
                {done.by && ` · ${done.by}`}
              </p>
              {done.from_jars.length > 0 && <p className="text-sm text-soft">{done.from_jars.join(', ')}</p>}
              {done.note && <p className="text-sm">“{done.note}”</p>}
              {done.photo && (
                <img
                  src={`/api/photos/kept/${done.photo}`}
                  alt={`${done.name}, done`}
                  loading="lazy"
                  className="mt-1 max-h-40 object-contain"
                />
              )}
            </div>
            <button
              type="button"
              className="press press-bare px-2 text-sm"
              disabled={busy}
              aria-label={`Not done: ${done.name}`}
              onClick={() =>
                attempt('Couldn’t undo the tick', () => calls.untick(done.at_place, sheet.revision))
              }
            >
              <Undo2 size={18} aria-hidden /> Not done
            </button>
          </li>
        ))}
      </ol>
    </details>
  );
}
