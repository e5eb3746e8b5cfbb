import { PaintBucket } from 'lucide-react';
import { useState } from 'react';
import type { MadeAgain } from '../../api/client';
import { Doubt } from '../../parts/Doubt';
import { Drawdown } from '../../parts/Drawdown';
import { Field } from '../../parts/Field';
import { deltaE, inScale, misread, typed } from '../../parts/numbers';
import { Panel } from '../../parts/Panel';
import { useAction } from '../../parts/useAction';
import { Failed, Waiting } from '../../parts/Waiting';
import { useAgain } from '../../state/log';
import { useUnitScale } from '../../state/scales';
import { useToPot } from '../../state/useToPot';

/** What comes out of the same parts today, and what to pour so that it comes out as it was. */
export function MakeAgain({ line, onClose }: { line: number | undefined; onClose: () => void }) {
  const again = useAgain(line);
  return (
    <Panel open={line !== undefined} onClose={onClose} title="Make it again">
      {again.isError && <Failed error={again.error} retry={() => again.refetch()} />}
      {again.data ? <Made made={again.data} /> : !again.isError && <Waiting rows={5} />}
    </Panel>
  );
}

function Made({ made }: { made: MadeAgain }) {
  const toPot = useToPot();
  const { attempt, busy } = useAction();
  const volume = useUnitScale('volume');
  const [amount, setAmount] = useState(() => inScale(60, { ...volume, places: 0 }));
  const [wrong, setWrong] = useState<string>();
  const pour = () => {
    const ml = typed(amount, volume);
    if (typeof ml !== 'number' || ml <= 0) {
      setWrong(typeof ml === 'number' ? 'more than 0' : misread(amount, volume));
      return;
    }
    void attempt('Couldn’t take the batch to the Pot', () => toPot(made.recipe, ml));
  };
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-2">
        <span aria-hidden className="min-h-28" style={{ backgroundColor: made.like.hex }} />
        <Drawdown swatch={made.now} className="min-h-28" />
        <p className="pt-1 text-sm">
          <b className="font-semibold">Then</b>, {made.like_from}
        </p>
        <p className="pt-1 text-sm">
          <b className="font-semibold">Now</b>, from the same parts, <Doubt value={made.now.within} />
        </p>
      </div>
      <p>
        {made.then_words}: {made.judgement.words}{' '}
        <span className="text-sm text-soft">ΔE {deltaE(made.judgement.difference)}</span>
      </p>
      {made.missing.length > 0 && (
        <ul className="list-disc pl-5">
          {made.missing.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      {made.since.length > 0 && (
        <p className="text-sm">
          Since then {made.since.join(', ')}.
          {made.said_then && (
            <>
              {' '}
              Predicted then:{' '}
              <span
                aria-hidden
                className="inline-block size-4 align-[-3px]"
                style={{ backgroundColor: made.said_then.expected.hex }}
              />{' '}
              <Doubt value={made.said_then.within} />. Today: {made.said_then.words}.
            </>
          )}
        </p>
      )}
      <p className="bg-paper p-3">
        <b className="font-semibold">{made.same ? 'Same parts still match' : 'Use instead'}: </b>
        {made.recipe_words}
        {!made.same && (
          <span className="block text-sm text-soft">
            {made.likely}: {made.comes.words}
          </span>
        )}
      </p>
      <div className="flex items-end gap-2">
        <Field
          label="How much"
          unit={volume.unit}
          value={amount}
          onChange={setAmount}
          inputMode="decimal"
          error={wrong}
          className="w-32"
        />
        <button type="button" className="press press-ink" disabled={busy} onClick={pour}>
          <PaintBucket size={18} aria-hidden /> Take to Pot
        </button>
      </div>
    </div>
  );
}
