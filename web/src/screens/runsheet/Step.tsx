import { ShieldAlert } from 'lucide-react';
import type { StepView } from '../../api/client';
import { Term } from '../../common/Term';
import { type clockOf, lasting } from '../../parts/times';
import { Tick } from './Tick';

interface Props {
  piece: string;
  revision: number;
  step: StepView;
  clock: ReturnType<typeof clockOf>;
  /** True for the step at hand: it is the large one. */
  now: boolean;
}

const WHO: Record<string, string> = { helper: 'helper', both: 'both of you' };

/** A step: when, what, where, how long, how it is worked wet, what to take care of; ticked off once it is its turn. */
export function Step({ piece, revision, step, clock, now }: Props) {
  const dry =
    step.dry && step.dry !== step.ends
      ? `dry by ${clock.day(step.dry) === clock.day(step.begins) ? clock.time(step.dry) : clock.both(step.dry)}`
      : undefined;
  const time = step.rests ? 'a day' : lasting(step.minutes);
  const days = step.split && step.pauses.length === 0 ? ', over two days' : '';
  return (
    <li
      className={`grid grid-cols-[5rem_0.5rem_minmax(0,1fr)] items-stretch gap-x-4 print:grid-cols-[4.5rem_minmax(0,1fr)] print:gap-x-2 ${
        now ? 'bg-paper' : 'border-t border-line'
      }`}
    >
      <p
        className={`pl-3 font-semibold whitespace-nowrap tabular-nums print:pl-0 ${now ? 'py-4 text-lg' : 'py-2.5'}`}
      >
        {clock.time(step.begins)}
      </p>
      <span
        aria-hidden
        className="print:hidden"
        style={step.swatch ? { background: step.swatch.face.hex } : undefined}
      />
      <div
        className={`flex min-w-0 flex-wrap items-start gap-x-4 gap-y-1 pr-3 print:py-1 ${now ? 'py-4' : 'py-2.5'}`}
      >
        <div className="grid min-w-0 flex-1 basis-72 gap-0.5">
          <p className={now ? 'font-display text-2xl font-semibold print:text-base' : 'font-semibold'}>
            {step.name}
            {step.by !== 'you' && <span className="text-sm font-normal"> ({WHO[step.by]})</span>}
          </p>
          {step.pot && (
            <p className={now ? '' : 'text-sm'}>
              {step.pot}
              {step.amount && `, ${step.amount}`}
            </p>
          )}
          <p className="text-sm text-soft">
            {step.zones.join(', ')}
            {step.zones.length > 0 && '. '}
            <span className="inline-block first-letter:uppercase">{time}</span>
            {days}
            {dry && `, ${dry}`}.
          </p>
          {step.pauses.length > 0 && (
            <p className="text-sm text-soft first-letter:uppercase">{step.pauses.join('; ')}.</p>
          )}
          {step.why && <p className="text-sm text-soft first-letter:uppercase">{step.why}.</p>}
          {step.reasons.length > 0 && (
            <details className="text-sm print:hidden">
              <summary className="w-fit cursor-pointer text-soft underline decoration-dotted underline-offset-4">
                Why this long?
              </summary>
              <ul className="grid max-w-prose gap-1 py-1">
                {step.reasons.map((reason) => (
                  <li key={reason}>{reason}</li>
                ))}
                <li className="text-soft">Your air, hours and rates are under Hours and rates.</li>
              </ul>
            </details>
          )}
          {step.wet_edge && (
            <p className="text-sm">
              {step.wet_edge.words}, with a <Term id="wet-edge">wet edge</Term>.
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
        </div>
        {step.ready && (
          <Tick key={step.id} piece={piece} revision={revision} step={step} size={now ? 'now' : 'row'} />
        )}
      </div>
    </li>
  );
}
