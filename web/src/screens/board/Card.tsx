import { ArrowLeft, Printer } from 'lucide-react';
import { Link, useParams } from 'react-router';
import type { Board } from '../../api/client';
import { Doubt } from '../../parts/Doubt';
import { PLACE_NAMES } from '../../parts/places';
import { Failed, Waiting } from '../../parts/Waiting';
import { useBoard, useStrip } from '../../state/boards';

/** The strips of a board on one page, each with room to paint it beside how it should look. */
export function Card() {
  const { id } = useParams();
  const board = useBoard(id);
  if (board.isError && !board.data) return <Failed error={board.error} retry={() => board.refetch()} />;
  if (!board.data) return <Waiting rows={8} />;
  const { entry } = board.data;
  return (
    <div className="client-sheet mx-auto grid max-w-5xl gap-4 px-4 pt-2 pb-8 print:max-w-none print:px-0">
      <div className="flex items-center justify-between gap-2 print:hidden">
        <Link to={`/board/${id}`} className="press press-bare text-sm">
          <ArrowLeft size={18} aria-hidden /> The board
        </Link>
        <button type="button" className="press press-ink" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </button>
      </div>
      <header className="grid gap-1">
        <h1 className="text-3xl first-letter:uppercase">{entry.name}</h1>
        <p>
          Glue the page to card, seal it with clear coat, and paint each strip in its empty field as it says.
          Hold the dry strip against the colours beside it, then read it back on its board.
        </p>
      </header>
      <Common entry={entry} />
      <ul aria-label="Strips" className="grid gap-3">
        {entry.strips.map(({ letter }) => (
          <Strip key={letter} entry={entry} letter={letter} />
        ))}
      </ul>
      <p className="text-sm text-soft">
        Printers and screens are not paint: trust the reading more than the print. The ± says how far the
        strip may be from its picture before your hand is known.
      </p>
    </div>
  );
}

/** What lies under all strips. */
function Common({ entry }: { entry: Board }) {
  const first = entry.strips[0]?.letter ?? 'A';
  const strip = useStrip(entry, first, undefined).last;
  const shared = strip?.layers.slice(0, entry.strips[1]?.from?.after ?? strip.layers.length) ?? [];
  if (shared.length === 0) return null;
  return (
    <p>
      <b className="font-semibold">Under all of them:</b>{' '}
      {shared.map(({ technique, pot }) => `${technique.toLowerCase()} (${pot})`).join(', then ')}.
    </p>
  );
}

function Strip({ entry, letter }: { entry: Board; letter: string }) {
  const strip = useStrip(entry, letter, undefined).last;
  const own = strip?.layers.slice(entry.strips.find((one) => one.letter === letter)?.from?.after ?? 0) ?? [];
  const top = own.at(-1);
  return (
    <li className="grid grid-cols-[2.5rem_minmax(0,1fr)_minmax(0,1.4fr)] gap-3 break-inside-avoid">
      <span className="font-display text-3xl font-semibold">{letter}</span>
      <div className="grid content-start gap-1">
        <p className="leading-tight">
          <b className="font-semibold">{top?.technique}</b>
          {top?.how && <span>: {top.how}</span>}
        </p>
        <p className="text-sm text-soft">{top?.pot}</p>
        <div className="grid h-20 grid-cols-3 text-center text-xs text-soft">
          {strip?.places.map(({ place, seen, within }) => (
            <span key={place} className="grid">
              <span
                role="img"
                aria-label={`${PLACE_NAMES[place]}, ${seen.hex}`}
                className="h-14"
                style={{ background: seen.hex }}
              />
              <span>
                {PLACE_NAMES[place]}, <Doubt value={within} />
              </span>
            </span>
          ))}
        </div>
      </div>
      <div className="grid min-h-28 place-items-center border-2 border-dashed border-edge text-sm text-soft">
        paint here
      </div>
    </li>
  );
}
