import { ChevronDown } from 'lucide-react';
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
      own: true,
      row: <Step key={step.id} piece={piece} revision={sheet.revision} step={step} clock={clock} />,
    })),
    ...sheet.elsewhere.map((one) => ({
      begins: one.begins,
      own: false,
      row: <Elsewhere key={`${one.piece} ${one.begins}`} one={one} clock={clock} />,
    })),
    ...sheet.idle.map((one) => ({
      begins: one.begins,
      own: false,
      row: <Idle key={`idle ${one.begins}`} one={one} clock={clock} />,
    })),
  ].sort((a, b) => new Date(a.begins).getTime() - new Date(b.begins).getTime());
  const days: Day[] = [];
  for (const { begins, own, row } of rows) {
    const name = clock.day(begins);
    const last = days.at(-1);
    if (last?.name === name) {
      last.rows.push(row);
      last.own ||= own;
    } else days.push({ name, begins, own, rows: [row] });
  }
  return (
    <div className="run-sheet-days grid gap-3">
      {together(days).map((stretch) =>
        stretch[0].own ? (
          <DayOf key={stretch[0].name} day={stretch[0]} />
        ) : (
          <WithoutIt key={stretch[0].name} days={stretch} clock={clock} />
        ),
      )}
    </div>
  );
}

interface Day {
  name: string;
  begins: string;
  /** Whether this piece is worked on. */
  own: boolean;
  rows: ReactNode[];
}

type Stretch = [Day, ...Day[]];

/** Groups consecutive days without work on this piece; every other day stands alone. */
function together(days: Day[]): Stretch[] {
  const all: Stretch[] = [];
  for (const day of days) {
    const last = all.at(-1);
    if (last && !day.own && !last[0].own) last.push(day);
    else all.push([day]);
  }
  return all;
}

function DayOf({ day }: { day: Day }) {
  return (
    <section aria-label={day.name} className="grid gap-px print:block">
      <h2 className="py-1 text-lg">{day.name}</h2>
      <ol className="grid gap-px print:block">{day.rows}</ol>
    </section>
  );
}

/** Days on which only other pieces are worked on: in one line, until somebody wants to know. */
function WithoutIt({ days, clock }: { days: Stretch; clock: Props['clock'] }) {
  const [from, to] = [days[0], days.at(-1) ?? days[0]];
  const when = from === to ? from.name : `${clock.short(from.begins)} to ${clock.short(to.begins)}`;
  return (
    <details className="group text-sm text-soft print:hidden">
      <summary className="flex min-h-11 cursor-pointer list-none items-center gap-3 px-3">
        <ChevronDown size={16} aria-hidden className="shrink-0 group-open:rotate-180" />
        {when}: other pieces
      </summary>
      <div className="grid gap-3">
        {days.map((day) => (
          <DayOf key={day.name} day={day} />
        ))}
      </div>
    </details>
  );
}
