import { Check, Clock, Droplets, ShieldAlert } from 'lucide-react';
import { useState } from 'react';
import type { StepDone, StepView } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { Field } from '../../parts/Field';
import { misread, typed } from '../../parts/numbers';
import { type clockOf, lasting } from '../../parts/times';
import { useDeed } from '../../parts/useDeed';
import { useRunSheetCalls } from '../../state/runSheet';

interface Props {
  piece: string;
  revision: number;
  step: StepView;
  clock: ReturnType<typeof clockOf>;
}

/** A step: when, what, where, how long, how it is worked wet, what to take care of; ticked off once it is its turn. */
export function Step({ piece, revision, step, clock }: Props) {
  const rests = step.begins === step.ends;
  return (
    <li className="grid grid-cols-[5rem_5rem_minmax(0,1fr)] items-stretch gap-3 bg-panel max-sm:grid-cols-[5rem_minmax(0,1fr)] print:break-inside-avoid print:border-b print:border-line print:bg-transparent">
      <p className="py-2 pl-3 font-semibold whitespace-nowrap tabular-nums">{clock.time(step.begins)}</p>
      {step.swatch ? (
        <Drawdown swatch={step.swatch} className="min-h-14 max-sm:hidden" />
      ) : (
        <span aria-hidden className="max-sm:hidden" />
      )}
      <div className="grid gap-1 py-2 pr-3">
        <div className="flex flex-wrap items-start gap-x-3 gap-y-1">
          <div className="min-w-0 flex-1">
            <p>
              <span className="font-semibold">{step.name}</span>
              {step.by === 'helper' && <span className="text-sm"> (helper)</span>}
            </p>
            {step.pot && (
              <p className="text-sm">
                {step.pot}
                {step.ml != null && `, ${step.ml < 10 ? 'a little' : `${Math.round(step.ml)} ml`}`}
              </p>
            )}
            <p className="text-sm text-soft">{step.zones.join(', ')}</p>
          </div>
          <p className="flex items-center gap-1 text-sm whitespace-nowrap">
            <Clock size={16} aria-hidden />
            {rests ? 'a day' : lasting(step.minutes)}
            {step.split && ', in two goes'}
          </p>
        </div>
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
              <b className="font-semibold">Take care: </b>
              {words}
              {source ? <span className="text-soft"> ({source})</span> : '.'}
            </span>
          </p>
        ))}
        {step.dry && step.dry !== step.ends && (
          <p className="text-sm text-soft">
            Then it dries until{' '}
            {clock.day(step.dry) === clock.day(step.begins) ? clock.time(step.dry) : clock.both(step.dry)}.
          </p>
        )}
        {step.ready && <Tick piece={piece} revision={revision} step={step} />}
      </div>
    </li>
  );
}

/** One touch ticks it off; how long it really took can be said with it. */
function Tick({ piece, revision, step }: Omit<Props, 'clock'>) {
  const calls = useRunSheetCalls(piece);
  const { attempt, busy } = useDeed();
  const [telling, setTelling] = useState(false);
  const [minutes, setMinutes] = useState('');
  const [note, setNote] = useState('');
  const [wrong, setWrong] = useState<string>();
  const tick = (more: Partial<StepDone>) =>
    attempt(
      'It was not ticked off',
      () => calls.tick({ step: step.id, ...more }, revision),
      (problem) => setWrong(problem.at('/minutes') ?? problem.at('/note') ?? problem.message),
    );
  const withWords = () => {
    const number = typed(minutes);
    if (number === undefined) setWrong(misread(minutes));
    else void tick({ minutes: number, note: note.trim() || null });
  };
  if (step.asks_lead)
    return (
      <div className="flex flex-wrap gap-2 print:hidden">
        <button type="button" className="press press-ink" disabled={busy} onClick={() => tick({})}>
          <Check size={18} aria-hidden /> No lead in it
        </button>
        <button
          type="button"
          className="press press-plain"
          disabled={busy}
          onClick={() => tick({ lead: true })}
        >
          There is lead
        </button>
      </div>
    );
  return (
    <div className="grid gap-2 print:hidden">
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="press press-ink"
          disabled={busy}
          aria-label={`Done: ${step.name}`}
          onClick={() => tick({})}
        >
          <Check size={18} aria-hidden /> Done
        </button>
        <button
          type="button"
          className="press press-bare text-sm"
          aria-expanded={telling}
          aria-label={`Done, with time and note: ${step.name}`}
          onClick={() => setTelling(!telling)}
        >
          With time and note
        </button>
      </div>
      {telling && (
        <div className="grid max-w-lg grid-cols-[8rem_minmax(0,1fr)_auto] items-end gap-2 max-sm:grid-cols-1">
          <Field label="It took" unit="min" value={minutes} onChange={setMinutes} inputMode="decimal" />
          <Field label="Note" value={note} onChange={setNote} placeholder="dragged at the end" />
          <button type="button" className="press press-ink" disabled={busy} onClick={withWords}>
            Tick off
          </button>
        </div>
      )}
      {wrong && (
        <p role="alert" className="font-medium text-alarm first-letter:uppercase">
          {wrong}
        </p>
      )}
    </div>
  );
}
