import { Clock, Droplets, ShieldAlert } from 'lucide-react';
import type { StepView } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { type clockOf, lasting } from '../../parts/times';
import { Tick } from './Tick';

interface Props {
  piece: string;
  revision: number;
  step: StepView;
  clock: ReturnType<typeof clockOf>;
}

const WHO: Record<string, string> = { helper: 'helper', both: 'both of you' };

/** A step: when, what, where, how long, how it is worked wet, what to take care of; ticked off once it is its turn. */
export function Step({ piece, revision, step, clock }: Props) {
  return (
    <li className="grid grid-cols-[5rem_5rem_minmax(0,1fr)] items-stretch gap-3 bg-panel max-sm:grid-cols-[5rem_minmax(0,1fr)] print:grid-cols-[4.5rem_minmax(0,1fr)]">
      <p className="py-2 pl-3 font-semibold whitespace-nowrap tabular-nums print:pl-0">
        {clock.time(step.begins)}
      </p>
      {step.swatch ? (
        <Drawdown swatch={step.swatch} className="min-h-14 max-sm:hidden print:hidden" />
      ) : (
        <span aria-hidden className="max-sm:hidden print:hidden" />
      )}
      <div className="grid gap-1 py-2 pr-3">
        <div className="flex flex-wrap items-start gap-x-3 gap-y-1">
          <div className="min-w-0 flex-1">
            <p>
              <span className="font-semibold">{step.name}</span>
              {step.by !== 'you' && <span className="text-sm"> ({WHO[step.by]})</span>}
            </p>
            {step.pot && (
              <p className="text-sm">
                {step.pot}
                {step.amount && `, ${step.amount}`}
              </p>
            )}
            <p className="text-sm text-soft">{step.zones.join(', ')}</p>
          </div>
          <p className="flex items-center gap-1 text-sm whitespace-nowrap">
            <Clock size={16} aria-hidden />
            {step.rests ? 'a day' : lasting(step.minutes)}
            {step.split && step.pauses.length === 0 && ', over two days'}
          </p>
        </div>
        {step.pauses.length > 0 && (
          <p className="text-sm text-soft first-letter:uppercase">{step.pauses.join('; ')}.</p>
        )}
        {step.why && <p className="text-sm text-soft first-letter:uppercase">{step.why}.</p>}
        {step.wet_edge && (
          <p className="flex gap-2 text-sm">
            <Droplets size={17} aria-hidden className="mt-0.5 shrink-0" />
            <span>{step.wet_edge.words}.</span>
          </p>
        )}
        {step.care.map(({ words, source }) => (
          <p key={words} className="flex gap-2 text-sm">
            <ShieldAlert size={17} aria-hidden className="mt-0.5 shrink-0" />
            <span>
              <b className="font-semibold">Safety: </b>
              {words}
              {source ? <span className="text-soft"> ({source})</span> : '.'}
            </span>
          </p>
        ))}
        {step.dry && step.dry !== step.ends && (
          <p className="text-sm text-soft">
            Dry by{' '}
            {clock.day(step.dry) === clock.day(step.begins) ? clock.time(step.dry) : clock.both(step.dry)}.
          </p>
        )}
        {step.ready && <Tick key={step.id} piece={piece} revision={revision} step={step} />}
      </div>
    </li>
  );
}
