import { Link } from 'react-router';
import type { RunSheetView } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { useAction } from '../../parts/useAction';
import { useToPot } from '../../state/useToPot';

/** What is to be mixed for what is left; one touch takes a batch of it to the Pot. */
export function Pots({ sheet }: { sheet: RunSheetView }) {
  const toPot = useToPot();
  const { attempt, busy } = useAction();
  if (sheet.pots.length === 0) return <p className="text-soft">Nothing is left to mix.</p>;
  return (
    <ul aria-label="To mix" className="grid gap-3">
      {sheet.pots.map((pot) => (
        <li key={pot.words} className="flex items-start gap-3">
          {pot.swatch ? (
            <Drawdown swatch={pot.swatch} className="h-11 w-11 shrink-0" />
          ) : (
            <span aria-hidden className="w-11 shrink-0" />
          )}
          <div className="min-w-0 flex-1 leading-tight">
            <p className="text-sm font-semibold">{pot.words}</p>
            <p className="text-sm">{pot.amount}</p>
            {pot.jars.map((jar) => (
              <p key={jar.pour} className="text-sm">
                First use {jar.amount} from{' '}
                <Link to={`/jars/${jar.pour}`} className="underline underline-offset-3">
                  jar {jar.code}
                </Link>
                {jar.place && (
                  <>
                    , <bdi>{jar.place}</bdi>
                  </>
                )}
              </p>
            ))}
            {pot.jars.length > 0 && (
              <p className="text-sm font-semibold">
                {pot.to_mix ? `Then mix ${pot.to_mix}` : 'Nothing to mix'}
              </p>
            )}
            {pot.amounts.map((amount) => (
              <p key={amount} className="text-sm text-soft">
                {amount}
              </p>
            ))}
          </div>
          {pot.parts.length > 1 && pot.to_mix && (
            <button
              type="button"
              className="press shrink-0 px-1 text-sm underline underline-offset-3"
              disabled={busy}
              aria-label={`Take to Pot: ${pot.words}`}
              onClick={() =>
                attempt('Couldn’t take the batch to the Pot', () =>
                  toPot(pot.parts, Math.ceil(pot.to_mix_ml)),
                )
              }
            >
              Take to Pot
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
