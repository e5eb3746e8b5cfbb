import { Check, Pause, Play } from 'lucide-react';
import { useState } from 'react';
import type { StepDone, StepView } from '../../api/client';
import { Field } from '../../parts/Field';
import { KeptPhoto } from '../../parts/KeptPhoto';
import { misread, typed } from '../../parts/numbers';
import { TroubleLine } from '../../parts/TroubleLine';
import { useDeed } from '../../parts/useDeed';
import { useRunSheetCalls } from '../../state/runSheet';
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
  const [word, Sign] = runs ? (['Pause', Pause] as const) : ([minutes ? 'Go on' : 'Start', Play] as const);
  return (
    <span className="flex items-center gap-2">
      <button
        type="button"
        className="press press-plain"
        disabled={busy}
        aria-label={`${word}: ${step.name}`}
        onClick={() =>
          attempt('The clock was not set', () => calls.clock({ step: step.id, runs: !runs }, revision))
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

/** One touch ticks it off; how long it really took can be said with it. */
export function Tick({ piece, revision, step }: Props) {
  const calls = useRunSheetCalls(piece);
  const { attempt, busy } = useDeed();
  const [telling, setTelling] = useState(false);
  const [minutes, setMinutes] = useState('');
  const [note, setNote] = useState('');
  const [photo, setPhoto] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  const tick = (more: Partial<StepDone>) =>
    attempt(
      'It was not ticked off',
      () => calls.tick({ step: step.id, ...more }, revision),
      (problem) => setWrong(problem.at('/minutes') ?? problem.at('/note') ?? problem.message),
    );
  const withWords = () => {
    const number = typed(minutes);
    const words = note.trim() || null;
    // By the clock, where nothing is written.
    if (minutes.trim() === '') void tick({ note: words, photo: photo ?? null });
    else if (number === undefined) setWrong(misread(minutes));
    else void tick({ minutes: number, note: words, photo: photo ?? null });
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
        <StepClock piece={piece} revision={revision} step={step} />
        <button
          type="button"
          className="press press-bare text-sm"
          aria-expanded={telling}
          aria-label={`Done, with time, note or photo: ${step.name}`}
          onClick={() => setTelling(!telling)}
        >
          With time, note or photo
        </button>
      </div>
      {telling && (
        <div className="grid max-w-lg grid-cols-[8rem_minmax(0,1fr)_auto] items-end gap-2 max-sm:grid-cols-1">
          <Field
            label="It took"
            unit="min"
            value={minutes}
            onChange={setMinutes}
            inputMode="decimal"
            placeholder={step.clock ? 'by the clock' : ''}
          />
          <Field label="Note" value={note} onChange={setNote} placeholder="dragged at the end" />
          <button type="button" className="press press-ink" disabled={busy} onClick={withWords}>
            Tick off
          </button>
          <div className="col-span-full">
            <KeptPhoto
              photo={photo}
              onChange={setPhoto}
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
