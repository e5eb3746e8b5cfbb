import { ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';
import type { RunSheetView, StepView } from '../../api/client';
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
  const running = sheet.steps.find((step) => step.clock?.runs);
  const now = running ?? sheet.steps.find((step) => step.ready);
  const rows = [
    ...sheet.steps.map((step) => ({
      begins: step.begins,
      own: true,
      step,
      row: (
        <Step
          key={step.id}
          piece={piece}
          revision={sheet.revision}
          step={step}
          clock={clock}
          now={step === now}
        />
      ),
    })),
    ...sheet.elsewhere.map((one) => ({
      begins: one.begins,
      own: false,
      step: undefined,
      row: <Elsewhere key={`${one.piece} ${one.begins}`} one={one} clock={clock} />,
    })),
    ...sheet.idle.map((one) => ({
      begins: one.begins,
      own: false,
      step: undefined,
      row: <Idle key={`idle ${one.begins}`} one={one} clock={clock} />,
    })),
  ].sort((a, b) => new Date(a.begins).getTime() - new Date(b.begins).getTime());
  const days: Day[] = [];
  for (const { begins, own, step, row } of rows) {
    const name = clock.day(begins);
    const last = days.at(-1);
    if (last?.name === name) {
      last.rows.push(row);
      last.own ||= own;
      if (step) last.steps.push(step);
    } else days.push({ name, begins, own, steps: step ? [step] : [], rows: [row] });
  }
  return (
    <div className="run-sheet-days grid gap-3">
      {together(days).map((stretch) =>
        stretch[0].own ? (
          <DayOf key={stretch[0].name} day={stretch[0]} pots={sheet.pots} />
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
  steps: StepView[];
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

function DayOf({ day, pots }: { day: Day; pots: RunSheetView['pots'] }) {
  return (
    <section aria-label={day.name} className="grid">
      <h2 className="pt-2 pb-1 text-lg">{day.name}</h2>
      <div className="print:grid print:grid-cols-[minmax(0,1fr)_16rem] print:gap-4">
        <ol className="grid print:block">{day.rows}</ol>
        <MixesOfDay steps={day.steps} pots={pots} />
      </div>
    </section>
  );
}

/** What is poured on one day, beside its steps on paper; how much of each paint where all of the pot is poured that day. */
function MixesOfDay({ steps, pots }: { steps: StepView[]; pots: RunSheetView['pots'] }) {
  const mixes = new Map<string, string[]>();
  for (const { pot, amount } of steps)
    if (pot) mixes.set(pot, [...(mixes.get(pot) ?? []), ...(amount ? [amount] : [])]);
  if (mixes.size === 0) return null;
  return (
    <ul aria-hidden className="hidden content-start gap-2 print:grid">
      {[...mixes].map(([words, amounts]) => {
        const pot = pots.find((one) => one.words === words);
        const wholly = pot && amounts.length === 1 && pot.amount === amounts[0] ? pot.amounts : [];
        return (
          <li key={words} className="text-sm">
            <b className="font-semibold">{words}</b>
            <br />
            {amounts.join(' + ')}
            {wholly.length > 0 && ` (${wholly.join('; ')})`}
          </li>
        );
      })}
    </ul>
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
          <DayOf key={day.name} day={day} pots={[]} />
        ))}
      </div>
    </details>
  );
}
