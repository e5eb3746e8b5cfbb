import type { RunSheetView, StepView } from '../../api/client';
import type { clockOf } from '../../parts/times';
import { Step } from './Step';

interface Props {
  piece: string;
  sheet: RunSheetView;
  clock: ReturnType<typeof clockOf>;
}

/** What is still to do, day by day. */
export function Steps({ piece, sheet, clock }: Props) {
  const days: { day: string; steps: StepView[] }[] = [];
  for (const step of sheet.steps) {
    const day = clock.day(step.begins);
    const last = days.at(-1);
    if (last?.day === day) last.steps.push(step);
    else days.push({ day, steps: [step] });
  }
  return (
    <div className="run-sheet-days grid gap-3">
      {days.map(({ day, steps }) => (
        <section key={day} aria-label={day} className="grid gap-px">
          <h2 className="py-1 text-lg">{day}</h2>
          <ol className="grid gap-px">
            {steps.map((step) => (
              <Step key={step.id} piece={piece} revision={sheet.revision} step={step} clock={clock} />
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}
