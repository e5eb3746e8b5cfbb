import { Check, Pause, Play } from 'lucide-react';
import { useState } from 'react';
import type { StepDone, StepView } from '../../api/client';
import { Field } from '../../parts/Field';
import { KeptPhoto } from '../../parts/KeptPhoto';
import { misread, typed } from '../../parts/numbers';
import { TroubleLine } from '../../parts/TroubleLine';
import { useDeed } from '../../parts/useDeed';
import { useRunSheetCalls } from '../../state/runSheet';
import { useUnsent } from '../../state/unsaved';
import { onClock, useClock } from './useClock';

interface Props {
  piece: string;
  revision: number;
  step: StepView;
}

/** The clock of a step: started, stopped for a while, gone on with. It goes on through a reload. */
function StepClock({ piece, revision, step }: Props) {
  const calls = useRunSheetCalls(piece);
  const { attempt, busy } = useDeed();
  const minutes = useClock(step.clock);
  const runs = step.clock?.runs ?? false;
  const [word, Sign] = runs ? (['Pause', Pause] as const) : ([minutes ? 'Resume' : 'Start', Play] as const);
  return (
    <span className="flex items-center gap-2">
      <button
        type="button"
        className="press press-plain"
        disabled={busy}
        aria-label={`${word} the timer: ${step.name}`}
        onClick={() =>
          attempt('Couldn’t set the timer', () => calls.clock({ step: step.id, runs: !runs }, revision))
        }
      >
        <Sign size={18} aria-hidden /> {word}
      </button>
      {minutes !== undefined && (
        <span role="timer" className="font-semibold tabular-nums">
          {onClock(minutes)}
        </span>
      )}
    </span>
  );
}

/** Details of a finished step: time, note, photo. */
interface Details {
  minutes: string;
  note: string;
  photo: string | null;
}

const NOTHING: Details = { minutes: '', note: '', photo: null };

/** One touch ticks it off; how long it really took can be said with it. Each step has its own: give it the step as its key. */
export function Tick({ piece, revision, step }: Props) {
  const calls = useRunSheetCalls(piece);
  const { attempt, busy } = useDeed();
  const [details, setDetails, forgetDetails] = useUnsent(`tick ${piece} ${step.id}`, NOTHING);
  const { minutes, note, photo } = details;
  const [telling, setTelling] = useState(details !== NOTHING);
  const [wrong, setWrong] = useState<string>();
  const tick = (more: Partial<StepDone>) =>
    attempt(
      'Couldn’t tick the step off',
      async () => {
        await calls.tick({ step: step.id, ...more }, revision);
        forgetDetails();
      },
      (problem) => {
        setTelling(true);
        setWrong(problem.at('/minutes') ?? problem.at('/note') ?? problem.message);
      },
    );
  /** With all that was typed; how long it took is by the clock where nothing is. */
  const done = () => {
    const number = typed(minutes);
    if (number === undefined) return setWrong(misread(minutes));
    const took = number === null ? {} : { minutes: number };
    void tick({ ...took, note: note.trim() || null, photo });
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
          onClick={done}
        >
          <Check size={18} aria-hidden /> Done
        </button>
        <StepClock piece={piece} revision={revision} step={step} />
        <button
          type="button"
          className="press press-bare text-sm"
          aria-expanded={telling}
          aria-label={`Time, note or photo: ${step.name}`}
          onClick={() => setTelling(!telling)}
        >
          Time, note or photo
        </button>
      </div>
      {telling && (
        <div className="grid max-w-lg grid-cols-[8rem_minmax(0,1fr)] items-end gap-2 max-sm:grid-cols-1">
          <Field
            label="Time taken"
            unit="min"
            value={minutes}
            onChange={(minutes) => setDetails({ ...details, minutes })}
            inputMode="decimal"
            placeholder={step.clock ? 'by the clock' : ''}
          />
          <Field
            label="Note"
            value={note}
            onChange={(note) => setDetails({ ...details, note })}
            placeholder="dragged at the end"
          />
          <div className="col-span-full">
            <KeptPhoto
              photo={photo}
              onChange={(photo) => setDetails({ ...details, photo })}
              name="Photo"
              alt="To be kept with the step"
              className="h-20 justify-self-start"
            />
          </div>
        </div>
      )}
      {wrong && <TroubleLine>{wrong}</TroubleLine>}
    </div>
  );
}
