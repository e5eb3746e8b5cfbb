import { useState } from 'react';
import type { BrushKindView, Problem, RunSheetView, UnwashedView } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import type { clockOf } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import { useRunSheetCalls } from '../../state/runSheet';

interface Props {
  sheet: RunSheetView;
  piece: string;
  clock: ReturnType<typeof clockOf>;
}

/** Brushes: what is not washed yet, what each day needs, and how many there are. */
export function Brushes({ sheet, piece, clock }: Props) {
  const { kinds, unwashed, days } = sheet.brushes;
  return (
    <>
      {unwashed.length > 0 && (
        <section aria-label="Not washed yet" className="grid gap-px">
          <h3 className="pb-1 text-base font-semibold">Not washed yet</h3>
          {unwashed.map((one) => (
            <NotWashed key={`${one.mark.used} ${one.name}`} one={one} piece={piece} clock={clock} />
          ))}
        </section>
      )}
      {days.map(({ day, needs }) => (
        <section key={day} aria-label={`Brushes, ${clock.plainDay(day)}`} className="grid gap-px">
          <h3 className="pb-1 text-base font-semibold">{clock.plainDay(day)}</h3>
          {needs.map(({ brush, name, colours, notes }) => (
            <div key={brush} className="bg-panel px-3 py-2">
              <p className="font-semibold">
                {colours.length} × {name}
              </p>
              <p className="text-sm text-soft">{colours.join('; ')}</p>
              {notes.map((note) => (
                <p key={note} className="pt-1 text-sm font-medium">
                  {note}
                </p>
              ))}
            </div>
          ))}
        </section>
      ))}
      {kinds.length > 0 && (
        <details className="print:hidden">
          <summary className="min-h-11 cursor-pointer py-3 font-semibold">How many you have</summary>
          <p className="pb-2 text-sm text-soft">
            With fewer brushes than colours, each day says what to wash out in between.
          </p>
          {kinds.map((kind) => (
            <Count key={kind.brush} kind={kind} piece={piece} />
          ))}
        </details>
      )}
    </>
  );
}

function NotWashed({ one, piece, clock }: { one: UnwashedView; piece: string; clock: Props['clock'] }) {
  const { wash } = useRunSheetCalls(piece);
  const { attempt, busy } = useAction();
  return (
    <div className="flex items-center gap-3 bg-panel px-3 py-2">
      <div className="min-w-0 flex-1">
        <p className="font-semibold">{one.name}</p>
        <p className={`text-sm ${one.late ? 'font-medium' : 'text-soft'}`}>
          {one.late
            ? `Overdue since ${clock.both(one.until)}: bristles bend and set. Use ${one.with}.`
            : `By ${clock.time(one.until)}: ${one.with}`}
        </p>
      </div>
      <button
        type="button"
        className="press press-plain shrink-0"
        disabled={busy}
        aria-label={`Washed: ${one.name}`}
        onClick={() => attempt('Couldn’t save that the brush is washed', () => wash(one.mark))}
      >
        Washed
      </button>
    </div>
  );
}

function Count({ kind, piece }: { kind: BrushKindView; piece: string }) {
  const { countBrushes } = useRunSheetCalls(piece);
  const { attempt } = useAction();
  const [problem, setProblem] = useState<Problem>();
  const put = (next: { good?: number; worn?: number }) => {
    setProblem(undefined);
    const body = { brush: kind.brush, good: kind.good ?? 0, worn: kind.worn, ...next };
    void attempt('Couldn’t save the brushes', () => countBrushes(body), setProblem);
  };
  return (
    <fieldset className="grid grid-cols-2 gap-3 pb-3">
      <legend className="pb-1 text-sm">
        <span className="font-semibold">{kind.name}</span>
        <span className="text-soft">: {kind.why}</span>
      </legend>
      <NumberField
        label="Good"
        value={kind.good ?? undefined}
        error={problem?.at('/good')}
        onChange={(good) => put({ good })}
      />
      <NumberField
        label="Worn out"
        value={kind.good == null ? undefined : kind.worn}
        error={problem?.at('/worn')}
        onChange={(worn) => put({ worn })}
      />
    </fieldset>
  );
}
