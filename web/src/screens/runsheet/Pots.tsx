import { PaintBucket } from 'lucide-react';
import type { RunSheetView } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { useDeed } from '../../parts/useDeed';
import { useToPot } from '../../state/useToPot';

/** What is to be mixed for what is left; one touch takes a batch of it to the Pot. */
export function Pots({ sheet }: { sheet: RunSheetView }) {
  const toPot = useToPot();
  const { attempt, busy } = useDeed();
  if (sheet.pots.length === 0) return <p className="text-soft">Nothing is left to mix.</p>;
  return (
    <ul aria-label="To mix" className="grid gap-px">
      {sheet.pots.map((pot) => (
        <li key={pot.words} className="grid grid-cols-[4rem_minmax(0,1fr)_auto] items-stretch gap-3 bg-panel">
          {pot.swatch ? <Drawdown swatch={pot.swatch} className="min-h-13" /> : <span aria-hidden />}
          <div className="py-1.5 leading-tight">
            <p className="font-semibold">{pot.words}</p>
            <p className="text-sm">{pot.amount}</p>
            {pot.amounts.map((amount) => (
              <p key={amount} className="text-sm text-soft">
                {amount}
              </p>
            ))}
          </div>
          {pot.parts.length > 1 && (
            <button
              type="button"
              className="press press-bare self-center px-2 text-sm print:hidden"
              disabled={busy}
              aria-label={`Take to Pot: ${pot.words}`}
              onClick={() =>
                attempt('Couldn’t take the batch to the Pot', () => toPot(pot.parts, Math.ceil(pot.ml)))
              }
            >
              <PaintBucket size={18} aria-hidden /> Take to Pot
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
