import { useState } from 'react';
import { Link } from 'react-router';
import type { PieceKept, RunSheetView } from '../../api/client';
import { Panel } from '../../parts/Panel';
import { clockOf } from '../../parts/times';
import { AcrossTheRoom } from './AcrossTheRoom';
import { Aside } from './Aside';
import { DoneSteps } from './DoneSteps';
import { HowWeWork } from './HowWeWork';
import { Steps } from './Steps';

/** What is left to do, day by day, and what it takes. */
export function Plan({ piece, sheet }: { piece: PieceKept; sheet: RunSheetView }) {
  const [setting, setSetting] = useState(false);
  const clock = clockOf(sheet.entry.hours.zone);
  return (
    <div className="run-sheet flex flex-col lg:h-full lg:flex-row print:block">
      <section
        aria-label="Steps"
        className="relative grid min-w-0 flex-1 content-start gap-4 px-4 pt-1 pb-6 lg:overflow-auto print:overflow-visible print:px-0"
      >
        <Head piece={piece} sheet={sheet} clock={clock} onSettings={() => setSetting(true)} />
        {sheet.stop && (
          <div role="alert" className="grid justify-items-start gap-2 bg-paper p-4 font-medium">
            <p>{sheet.stop}</p>
            <Link to="/piece" className="press press-plain text-sm">
              To the piece
            </Link>
          </div>
        )}
        <DoneSteps piece={piece.id} sheet={sheet} clock={clock} />
        <Steps piece={piece.id} sheet={sheet} clock={clock} />
      </section>
      <Aside sheet={sheet} piece={piece.id} clock={clock} />
      <Panel
        open={setting}
        onClose={() => setSetting(false)}
        title="Hours and rates"
        className="w-[min(44rem,94vw)]"
      >
        <HowWeWork piece={piece.id} sheet={sheet} />
      </Panel>
    </div>
  );
}

interface HeadProps {
  piece: PieceKept;
  sheet: RunSheetView;
  clock: ReturnType<typeof clockOf>;
  onSettings: () => void;
}

/** When it is done, whether that is in time, and what cannot wait. */
function Head({ piece, sheet, clock, onSettings }: HeadProps) {
  const over = sheet.steps.length === 0 && !sheet.stop && sheet.done.length > 0;
  return (
    <header className="grid gap-1">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h1 className="mr-auto text-3xl">
          {sheet.ready_between
            ? `Ready on ${clock.between(sheet.ready_between.first, sheet.ready_between.last)}`
            : over
              ? 'Ready to hand over'
              : 'Run sheet'}
        </h1>
        <div className="flex flex-wrap items-center print:hidden">
          <button type="button" className="press press-bare px-2.5 text-sm" onClick={onSettings}>
            Hours and rates
          </button>
          <AcrossTheRoom piece={piece.id} sheet={sheet} clock={clock} />
          <a
            className="press press-bare px-2.5 text-sm"
            href={`/api/pieces/${piece.id}/run-sheet/calendar`}
            download="run-sheet.ics"
          >
            Calendar
          </a>
          <button type="button" className="press press-bare px-2.5 text-sm" onClick={() => window.print()}>
            Print
          </button>
        </div>
      </div>
      <p className="text-soft">
        {sheet.work_left && `${sheet.work_left} of work left. `}
        {sheet.verdict}
      </p>
      {sheet.drying.length > 0 && (
        <p className="text-sm text-soft">
          Still drying:{' '}
          {sheet.drying
            .map(({ zones, until }) => `${zones.join(', ').toLowerCase()} until ${clock.both(until)}`)
            .join('; ')}
          .
        </p>
      )}
      {sheet.if_it_stays.length > 0 && (
        <p className="text-sm print:hidden">
          <b className="font-semibold">If left for a week: </b>
          {sheet.if_it_stays.join('; ')}. Everything else can wait.
        </p>
      )}
      <p className="hidden print:block">
        {piece.entry.name}, {sheet.scheme}
      </p>
    </header>
  );
}
