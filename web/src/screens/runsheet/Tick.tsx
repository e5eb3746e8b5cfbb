import { NotebookPen, Pause, Play } from 'lucide-react';
import { useState } from 'react';
import type { StepDone, StepView } from '../../api/client';
import { KeptPhoto } from '../../common/KeptPhoto';
import { Field } from '../../parts/Field';
import { misread, typed } from '../../parts/numbers';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction } from '../../parts/useAction';
import { useRunSheetCalls } from '../../state/runSheet';
import { useUnsent } from '../../state/unsaved';
import { onClock, useClock } from './useClock';

/** In a row among others, as the step at hand, or read and pressed from across the room. */
type Size = 'row' | 'now' | 'room';

interface Props {
  piece: string;
  revision: number;
  step: StepView;
  size: Size;
}

const DONE: Record<Size, string> = {
  row: 'press press-bare px-3',
  now: 'press press-ink min-h-16 min-w-36 text-lg',
  room: 'press press-ink min-h-24 min-w-60 text-3xl',
};

const TIMER: Record<Size, string> = {
  row: 'press press-bare px-2 text-sm',
  now: 'press press-bare px-2',
  room: 'press press-plain min-h-24 px-8 text-2xl',
};

/** The clock of a step: started, stopped for a while, gone on with. It goes on through a reload. */
function StepClock({ piece, revision, step, size }: Props) {
  const calls = useRunSheetCalls(piece);
  const { attempt, busy } = useAction();
  const minutes = useClock(step.clock);
  const runs = step.clock?.runs ?? false;
  const [word, Sign] = runs ? (['Pause', Pause] as const) : ([minutes ? 'Resume' : 'Start', Play] as const);
  return (
    <span className="flex items-center gap-2">
      <button
        type="button"
        className={TIMER[size]}
        disabled={busy}
        aria-label={`${word} the timer: ${step.name}`}
        onClick={() =>
          attempt('Couldn’t set the timer', () => calls.clock({ step: step.id, runs: !runs }, revision))
        }
      >
        <Sign size={size === 'room' ? 28 : 18} aria-hidden /> {word}
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
export function Tick({ piece, revision, step, size }: Props) {
  const calls = useRunSheetCalls(piece);
  const { attempt, busy } = useAction();
  const [details, setDetails, forgetDetails] = useUnsent(`tick ${piece} ${step.id}`, NOTHING);
  const { minutes, note, photo } = details;
  const [telling, setTelling] = useState(details !== NOTHING);
  const set = (what: Partial<Details>) => setDetails((now) => ({ ...now, ...what }));
  const [coming, setComing] = useState(false);
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
          No lead in it
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
  const noteButton = (
    <button
      type="button"
      className={size === 'row' ? 'press press-bare px-0' : 'press press-bare px-2 text-sm'}
      aria-expanded={telling}
      aria-label={`Time, note or photo: ${step.name}`}
      title="Time, note or photo"
      onClick={() => setTelling(!telling)}
    >
      {size === 'row' ? <NotebookPen size={18} aria-hidden /> : 'Time, note or photo'}
    </button>
  );
  return (
    <div className={`grid gap-2 print:hidden ${telling ? 'basis-full' : ''}`}>
      <div className={`flex flex-wrap items-center gap-x-2 ${size === 'now' ? 'flex-col' : ''}`}>
        <button
          type="button"
          data-mark={size === 'now' ? 'tick' : undefined}
          className={DONE[size]}
          disabled={busy || coming}
          aria-label={`Done: ${step.name}`}
          onClick={done}
        >
          Done
        </button>
        <StepClock piece={piece} revision={revision} step={step} size={size} />
        {noteButton}
      </div>
      {telling && (
        <div className="grid max-w-lg grid-cols-[8rem_minmax(0,1fr)] items-end gap-2 max-sm:grid-cols-1">
          <Field
            label="Time taken"
            unit="min"
            value={minutes}
            onChange={(minutes) => set({ minutes })}
            inputMode="decimal"
            placeholder={step.clock ? 'by the clock' : ''}
          />
          <Field
            label="Note"
            value={note}
            onChange={(note) => set({ note })}
            placeholder="dragged at the end"
          />
          <div className="col-span-full">
            <KeptPhoto
              photo={photo}
              onChange={(photo) => set({ photo })}
              onWay={setComing}
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
