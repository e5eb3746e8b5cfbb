import { Brush, RotateCcw } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import type { LogEntryView } from '../../api/client';
import { cameOut } from '../../parts/cameOut';
import { Drawdown } from '../../parts/Drawdown';
import type { clockOf } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import { usePieces } from '../../state/piece';
import { OnPhoto } from './OnPhoto';

interface Props {
  entry: LogEntryView;
  clock: ReturnType<typeof clockOf>;
  onAgain: (line: number) => void;
}

/** One line of the log: when, how it looks, what was done, and the way to it. */
export function Entry({ entry, clock, onAgain }: Props) {
  // That a piece was begun says its name alone.
  const piece = entry.kind === 'piece' ? undefined : entry.piece_name;
  return (
    <div className="grid grid-cols-[4.25rem_4rem_minmax(0,1fr)_auto] items-stretch gap-3 bg-panel pl-3 max-sm:grid-cols-[4.25rem_minmax(0,1fr)_auto]">
      <time dateTime={entry.at} className="py-2.5 text-sm whitespace-nowrap tabular-nums">
        {clock.time(entry.at)}
      </time>
      {entry.swatch ? (
        <Drawdown swatch={entry.swatch} className="min-h-11 max-sm:hidden" />
      ) : (
        <span aria-hidden className="max-sm:hidden" />
      )}
      <div className="py-2 leading-tight">
        <p className={entry.removed ? 'text-soft line-through' : ''}>
          <Way entry={entry} />
        </p>
        {entry.detail && <p className="text-sm first-letter:uppercase">{entry.detail}</p>}
        {entry.came_out && <p className="text-sm text-soft">{cameOut(entry.came_out)}</p>}
        {(piece || entry.by || entry.removed) && (
          <p className="text-sm text-soft">
            {[piece, entry.by, entry.removed && 'since deleted'].filter(Boolean).join(' · ')}
          </p>
        )}
        {entry.photo && (
          <a href={`/api/photos/kept/${entry.photo}`} target="_blank" rel="noreferrer">
            <img
              src={`/api/photos/kept/${entry.photo}`}
              alt={`${entry.words}`}
              loading="lazy"
              className="mt-1 max-h-40 object-contain"
            />
          </a>
        )}
        <OnPhoto entry={entry} />
      </div>
      <div className="flex items-center max-sm:flex-col max-sm:justify-center">
        <TouchUp entry={entry} />
        {entry.again && (
          <button
            type="button"
            className="press press-bare px-2 text-sm"
            aria-label={`Make again: ${entry.words}`}
            onClick={() => onAgain(entry.id)}
          >
            <RotateCcw size={18} aria-hidden /> <span className="max-sm:hidden">Make again</span>
          </button>
        )}
      </div>
    </div>
  );
}

/** From what was laid on a piece to how a spot of it is mended. */
function TouchUp({ entry: { piece, kind, swatch, removed, words } }: { entry: LogEntryView }) {
  const { take } = usePieces();
  const go = useNavigate();
  const { attempt, busy } = useAction();
  if (!piece || kind !== 'step' || !swatch || removed) return null;
  const mend = () =>
    attempt('Couldn’t open the piece', async () => {
      await take(piece);
      void go('/piece/touch-up');
    });
  return (
    <button
      type="button"
      className="press press-bare px-2 text-sm"
      aria-label={`Touch up: ${words}`}
      disabled={busy}
      onClick={mend}
    >
      <Brush size={18} aria-hidden /> <span className="max-sm:hidden">Touch up</span>
    </button>
  );
}

/** The words, which lead to what they tell of. */
function Way({ entry }: { entry: LogEntryView }) {
  const { take } = usePieces();
  const go = useNavigate();
  const to = entry.board
    ? `/board/${entry.board}`
    : entry.mix
      ? `/pot/${entry.mix}`
      : entry.paint
        ? `/shelf/${entry.paint}`
        : undefined;
  const way = 'text-left hover:underline underline-offset-2';
  const { piece } = entry;
  if (entry.removed || (!to && (!piece || entry.kind === 'note'))) return entry.words;
  if (to)
    return (
      <Link to={to} className={way}>
        {entry.words}
      </Link>
    );
  const onPiece = async () => {
    await take(piece ?? '');
    void go(entry.kind === 'step' ? '/run-sheet' : '/piece');
  };
  return (
    <button type="button" className={way} onClick={() => void onPiece()}>
      {entry.words}
    </button>
  );
}
