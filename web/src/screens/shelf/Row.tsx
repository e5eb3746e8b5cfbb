import { TriangleAlert } from 'lucide-react';
import type { Paint } from '../../api/client';
import { Doubt } from '../../parts/Doubt';
import { Drawdown } from '../../parts/Drawdown';
import { coats } from '../../parts/numbers';
import { useVolume } from '../../state/scales';

const NAME = 'w-34 shrink-0 pl-4 pr-2 md:pl-5';
const NARROW = { name: 'md:w-40 wide:w-44', sure: 'w-16 pl-3' };
const WIDE = { name: 'md:w-52', sure: 'w-18 pl-3 sm:w-40 sm:pl-4' };
const LEFT = 'w-32 shrink-0';

/** What the columns are. */
export function Head({ narrow }: { narrow: boolean }) {
  const columns = narrow ? NARROW : WIDE;
  return (
    <div aria-hidden className="flex pb-1 text-sm text-soft">
      <span className={`${NAME} ${columns.name}`}>Paint</span>
      <span className="min-w-0 flex-1 truncate">Thick to thin, over white and black</span>
      <span className={`shrink-0 ${columns.sure}`}>{narrow ? 'Mixes' : 'Mixes within'}</span>
      {!narrow && <span className={`hidden lg:block ${LEFT}`}>Covers in</span>}
    </div>
  );
}

interface Props {
  paint: Paint;
  open: boolean;
  narrow: boolean;
  /** True of the paint that is best tested next. */
  marked: boolean;
  onOpen: () => void;
}

/** One tin: its name, its drawdown, how sure its mixes are. */
export function Row({ paint, open, narrow, marked, onOpen }: Props) {
  const { entry, known } = paint;
  const volume = useVolume();
  const off =
    entry.condition === 'off' ? 'gone off' : entry.condition === 'frozen' ? 'was frozen' : undefined;
  return (
    <li>
      <button
        type="button"
        onClick={onOpen}
        aria-current={open || undefined}
        data-mark={marked ? 'paint to test' : undefined}
        className="group flex h-11 w-full items-stretch overflow-hidden text-left cursor-pointer hover:bg-panel aria-[current]:bg-paper aria-[current]:outline-2 aria-[current]:-outline-offset-2 aria-[current]:outline-ink focus-visible:-outline-offset-3"
      >
        <span
          className={`flex flex-col justify-center leading-[1.15] ${NAME} ${narrow ? NARROW.name : WIDE.name}`}
        >
          <bdi className="truncate font-semibold">{entry.name}</bdi>
          <span className="truncate text-sm text-soft">
            {off ?? (paint.house_white ? 'house white' : paint.class_name)}
          </span>
        </span>
        <Drawdown swatch={paint.swatch} className="min-w-0 flex-1" />
        <span
          className={`flex shrink-0 flex-col justify-center text-sm leading-[1.15] ${narrow ? NARROW.sure : WIDE.sure}`}
        >
          {paint.medium ? (
            <span>{narrow ? '' : 'clear'}</span>
          ) : (
            <span className="flex items-center gap-1">
              <Doubt value={known.doubt} />
              {known.questions > 0 && <TriangleAlert size={14} aria-label="has a reading to check" />}
            </span>
          )}
          {!narrow && !paint.medium && <span className="hidden sm:block">{known.words}</span>}
        </span>
        {!narrow && (
          <span className={`hidden flex-col justify-center text-sm leading-[1.15] lg:flex ${LEFT}`}>
            {paint.swatch.hides_in && <span>{coats(paint.swatch.hides_in)}</span>}
            {typeof entry.stock_ml === 'number' && <span>{volume(entry.stock_ml)} left</span>}
          </span>
        )}
      </button>
    </li>
  );
}
