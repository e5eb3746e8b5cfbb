import { ScanLine } from 'lucide-react';
import { useState } from 'react';
import type { PartsMethod, PourView, ReadingMade } from '../../api/client';
import { ReadSample } from '../../common/ReadSample';
import { Panel } from '../../parts/Panel';
import { Segments } from '../../parts/Segments';
import { POURS, Taught } from '../../parts/Taught';
import { useAction } from '../../parts/useAction';
import { useReadingCalls } from '../../state/readings';

interface Props {
  name: string;
  /** What is in it, by volume. */
  of: { paint: string; parts: number }[];
  /** The record of the pot, where it was poured. */
  pot?: string;
  weighed?: boolean;
}

/** What is read where a pot was poured: what is in it, as well as it was measured. */
export const ofPour = ({ id, paints, steps }: PourView) => ({
  of: paints.filter((one) => one.ml > 0).map(({ paint, ml }) => ({ paint, parts: ml })),
  pot: id,
  weighed: steps.some((step) => step.amount.endsWith(' g')),
});

/** Reads a dab of what was mixed: it teaches what the paints in it are. */
export function ReadPot({ name, of, pot, weighed = false }: Props) {
  const calls = useReadingCalls();
  const { attempt } = useAction();
  const [open, setOpen] = useState(false);
  const [pour, setPour] = useState<PartsMethod>(weighed ? 'scale' : 'spoons');
  const [made, setMade] = useState<ReadingMade>();
  const [problem, setProblem] = useState<string>();
  const close = () => {
    setOpen(false);
    setMade(undefined);
    setProblem(undefined);
  };
  return (
    <>
      <button
        type="button"
        className="press press-bare shrink-0"
        disabled={of.length === 0}
        onClick={() => setOpen(true)}
      >
        <ScanLine size={18} aria-hidden /> Read a dab
      </button>
      <Panel open={open} onClose={close} title={`Read ${name}`} className="w-[min(46rem,94vw)]">
        {made ? (
          <Taught made={made} onClose={close} />
        ) : (
          <div className="grid gap-4">
            <p>
              Brush some out on card, thick enough that nothing shows through, and let it dry. The reading
              makes every paint in the mix better known.
            </p>
            {of.length > 1 && (
              <div className="flex flex-wrap items-center gap-3">
                <span className="text-sm font-semibold">Measured with</span>
                <Segments label="Measured with" choices={POURS} value={pour} onChange={setPour} />
              </div>
            )}
            <ReadSample
              sample={{ of, state: 'dry' }}
              two={false}
              problem={problem}
              onKeep={async ({ thick, source, device }) => {
                setProblem(undefined);
                const kept = await attempt(
                  'Couldn’t save the reading',
                  () =>
                    calls.make({
                      of,
                      pour,
                      state: 'dry',
                      source,
                      device: device ?? null,
                      thick: thick ?? null,
                      drawdown: null,
                      pot: pot ?? null,
                    }),
                  ({ message }) => setProblem(message),
                );
                if (kept) setMade(kept);
                return kept !== undefined;
              }}
            />
          </div>
        )}
      </Panel>
    </>
  );
}
