import type { ReactNode } from 'react';
import type { RunSheetView } from '../../api/client';
import type { clockOf } from '../../parts/times';
import { Elsewhere, Idle } from './Meanwhile';
import { Step } from './Step';

interface Props {
  piece: string;
  sheet: RunSheetView;
  clock: ReturnType<typeof clockOf>;
}

/** What is still to do, day by day, with what is done elsewhere meanwhile. */
export function Steps({ piece, sheet, clock }: Props) {
  const rows = [
    ...sheet.steps.map((step) => ({
      begins: step.begins,
      row: <Step key={step.id} piece={piece} revision={sheet.revision} step={step} clock={clock} />,
    })),
    ...sheet.elsewhere.map((one) => ({
      begins: one.begins,
      row: <Elsewhere key={`${one.piece} ${one.begins}`} one={one} clock={clock} />,
    })),
    ...sheet.idle.map((one) => ({
      begins: one.begins,
      row: <Idle key={`idle ${one.begins}`} one={one} clock={clock} />,
    })),
  ].sort((a, b) => new Date(a.begins).getTime() - new Date(b.begins).getTime());
  const days: { day: string; rows: ReactNode[] }[] = [];
  for (const { begins, row } of rows) {
    const day = clock.day(begins);
    const last = days.at(-1);
    if (last?.day === day) last.rows.push(row);
    else days.push({ day, rows: [row] });
  }
  return (
    <div className="run-sheet-days grid gap-3">
      {days.map(({ day, rows }) => (
        <section key={day} aria-label={day} className="grid gap-px print:block">
          <h2 className="py-1 text-lg">{day}</h2>
          <ol className="grid gap-px print:block">{rows}</ol>
        </section>
      ))}
    </div>
  );
}
