import { Check, Trash2, TriangleAlert } from 'lucide-react';
import type { ReadingKept } from '../../api/client';
import { keyed } from '../../parts/keyed';
import { deltaE, oneDecimal, when } from '../../parts/numbers';
import { useAction } from '../../parts/useAction';
import { useReadingCalls } from '../../state/readings';
import { useTellDeleted } from '../../state/useTellDeleted';

/** What was read of a paint, newest first; what contradicts the rest is asked about. */
export function Readings({ readings, paint }: { readings: ReadingKept[]; paint: string }) {
  if (readings.length === 0) return null;
  return (
    <section aria-label="Readings" className="grid gap-2">
      <h3 className="font-display text-xl font-semibold">Read so far</h3>
      <ul className="grid gap-px">
        {readings.map((reading) => (
          <Reading key={reading.id} reading={reading} paint={paint} />
        ))}
      </ul>
    </section>
  );
}

function kind({ entry }: ReadingKept) {
  if (entry.drawdown) return `drawdown, ${entry.drawdown.wet_um} µm`;
  const state = entry.state === 'dry' ? '' : `, ${entry.state}`;
  return `${entry.of.length > 1 ? 'mix' : 'masstone'}${state}`;
}

/** How a reading came to be, where no reader took it. */
const SOURCES: Record<string, string> = { photo: 'from a photo', chip: 'from a chip', guess: 'a guess' };

function Reading({ reading, paint }: { reading: ReadingKept; paint: string }) {
  const calls = useReadingCalls();
  const { attempt } = useAction();
  const tellDeleted = useTellDeleted();
  const remove = () =>
    attempt('Couldn’t delete the reading', async () => {
      await calls.remove(reading);
      void tellDeleted('Reading', reading.id);
    });
  const alone = reading.entry.of.length === 1 && reading.entry.of[0]?.paint === paint;
  return (
    <li className="grid grid-cols-[3.5rem_minmax(0,1fr)_auto] items-stretch gap-3 bg-ground">
      <span aria-hidden className="flex flex-col">
        {keyed(reading.hex, (hex) => hex).map(({ key, item: hex }) => (
          <span key={key} className="flex-1" style={{ background: hex }} />
        ))}
      </span>
      <div className="grid min-w-0 content-start gap-1 py-2 leading-tight">
        <p className="font-semibold">
          {alone ? kind(reading) : reading.title}
          {reading.questioned && (
            <span className="ml-2 inline-flex items-center gap-1">
              <TriangleAlert size={15} aria-hidden /> not used
            </span>
          )}
        </p>
        <p className="text-sm text-soft">
          <span className="inline-block first-letter:uppercase">{reading.words}</span>, ΔE00{' '}
          {deltaE(reading.difference)}
        </p>
        <p className="text-sm text-soft">
          {[
            when(reading.made_at),
            alone ? '' : kind(reading),
            SOURCES[reading.entry.source ?? ''] ?? reading.entry.device ?? '',
          ]
            .filter(Boolean)
            .join(', ')}
        </p>
        {reading.questioned && (
          <>
            <p className="text-sm">
              This disagrees with the other readings ({oneDecimal(reading.off)} standard deviations). Wrong
              dab, still wet, or a dirty lens? Delete it and read again, or use it anyway.
            </p>
            <button
              type="button"
              className="press press-plain mb-1 justify-self-start"
              onClick={() => attempt('Couldn’t change the reading', () => calls.insist(reading))}
            >
              <Check size={18} aria-hidden /> Use it anyway
            </button>
          </>
        )}
      </div>
      <button
        type="button"
        className="press press-bare self-start px-0"
        aria-label={`Delete the reading of ${reading.title}`}
        onClick={remove}
      >
        <Trash2 size={18} aria-hidden />
      </button>
    </li>
  );
}
