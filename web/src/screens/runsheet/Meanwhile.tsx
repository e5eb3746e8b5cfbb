import { Coffee, CornerDownRight } from 'lucide-react';
import type { RunSheetView } from '../../api/client';
import { type clockOf, lasting } from '../../parts/times';
import { usePieces } from '../../state/piece';

type Clock = ReturnType<typeof clockOf>;

const minutesOf = (one: { begins: string; ends: string }) =>
  (new Date(one.ends).getTime() - new Date(one.begins).getTime()) / 60_000;

const ROW = 'flex flex-wrap items-center gap-x-3 px-3 py-1 text-sm text-soft';

/** Something done on another piece while this one waits, or first. */
export function Elsewhere({ one, clock }: { one: RunSheetView['elsewhere'][number]; clock: Clock }) {
  const { take } = usePieces();
  return (
    <li className={ROW}>
      <span className="w-17 whitespace-nowrap tabular-nums">{clock.time(one.begins)}</span>
      <CornerDownRight size={16} aria-hidden className="shrink-0" />
      <span className="min-w-0 flex-1">
        <button
          type="button"
          className="min-h-6 text-left underline underline-offset-2 print:no-underline"
          onClick={() => take(one.piece)}
        >
          {one.name}
        </button>
        : {one.step.charAt(0).toLowerCase()}
        {one.step.slice(1)}
        {one.by === 'helper' && ' (helper)'}
        {one.by === 'both' && ' (both of you)'}
      </span>
      <span className="whitespace-nowrap">{lasting(minutesOf(one))}</span>
    </li>
  );
}

/** Working hours with nothing to do: something else fits in. */
export function Idle({ one, clock }: { one: RunSheetView['idle'][number]; clock: Clock }) {
  return (
    <li className={`${ROW} print:hidden`}>
      <span className="w-17 whitespace-nowrap tabular-nums">{clock.time(one.begins)}</span>
      <Coffee size={16} aria-hidden className="shrink-0" />
      <span>Free for {lasting(minutesOf(one))}</span>
    </li>
  );
}
