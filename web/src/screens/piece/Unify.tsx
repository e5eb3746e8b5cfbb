import { X } from 'lucide-react';
import { Progress } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import type { Piece, UnifyWay } from '../../api/client';
import { useTell } from '../../parts/Notice';
import { oneDecimal } from '../../parts/numbers';
import { useUnify } from '../../state/piece';
import { useVolume } from '../../state/scales';
import { useMoney } from '../../state/workshop';
import { schemeOf, withScheme } from './entry';
import { Pulls } from './Pulls';

interface Props {
  entry: Piece;
  scheme: number;
  /** Draws the piece. */
  picture: (entry: Piece) => ReactNode;
  onChange: (entry: Piece) => void;
  onClose: () => void;
}

/** What would bring the parts together: each way with its picture beside the piece as it is. */
export function Unify({ entry, scheme, picture, onChange, onClose }: Props) {
  const { found, done } = useUnify(entry, scheme);
  const [at, setAt] = useState(0);
  const tell = useTell();
  const ways = found.data?.ways ?? [];
  const calms = found.data?.calms ?? [];
  const way = ways[Math.min(at, ways.length - 1)];
  const over = schemeOf(entry).over ?? [];
  const tried = way && withScheme(entry, { over: [...over, way.over] });
  const take = () => {
    if (!tried || !way) return;
    onChange(tried);
    onClose();
    tell(`Applied: ${way.words}. Undo removes it.`);
  };
  return (
    <section aria-label="Unify" className="grid gap-2">
      <div className="flex items-center gap-2">
        <h2 className="flex-1 text-xl">
          <span role="status">
            {found.isPending
              ? 'Trying every wash, glaze and wax of the shelf'
              : found.isError
                ? found.error.message
                : ways.length === 0
                  ? 'Nothing on the shelf helps. Shift one colour towards the next instead'
                  : `${ways[0]?.all_in ? 'These bring it together' : 'These help'}, surest first`}
          </span>
        </h2>
        <button type="button" className="press press-ink" disabled={!way} onClick={take}>
          Apply
        </button>
        <button type="button" className="press press-bare px-0" aria-label="Close" onClick={onClose}>
          <X size={20} aria-hidden />
        </button>
      </div>
      {found.isPending && (
        <Progress.Root
          value={Math.round(100 * done)}
          aria-label="How far the search is"
          className="h-2 bg-panel"
        >
          <Progress.Indicator className="h-full bg-ink" style={{ width: `${100 * done}%` }} />
        </Progress.Root>
      )}
      <div className="grid grid-cols-2 gap-px">
        <figure>
          {picture(entry)}
          <figcaption className="py-1 text-sm">Before</figcaption>
        </figure>
        <figure>
          {tried ? (
            picture(tried)
          ) : (
            <div className={`aspect-4/3 bg-panel ${found.isPending ? 'animate-pulse' : ''}`} />
          )}
          <figcaption className="py-1 text-sm">After</figcaption>
        </figure>
      </div>
      {way && (
        <ul aria-label="Ways" className="grid gap-px">
          {ways.map((one, n) => (
            <li key={one.words}>
              <Way way={one} chosen={one === way} onChoose={() => setAt(n)} />
            </li>
          ))}
        </ul>
      )}
      {calms.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-3 text-sm font-semibold">
            Or tone down one colour
          </summary>
          <Pulls pulls={calms} />
        </details>
      )}
    </section>
  );
}

function Way({ way, chosen, onChoose }: { way: UnifyWay; chosen: boolean; onChoose: () => void }) {
  const money = useMoney();
  const volume = useVolume();
  const cost = way.cost == null ? '' : `, costs ${money(way.cost)}`;
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      className={`block w-full cursor-pointer px-3 py-2 text-left leading-tight ${
        chosen ? 'bg-paper outline-2 -outline-offset-2 outline-ink' : 'bg-panel hover:bg-paper'
      }`}
    >
      <span className="block font-semibold">{way.words}</span>
      <span className="block text-sm first-letter:uppercase">
        {[way.verdict, way.likely].filter(Boolean).join(', ')}; overall colour shift {oneDecimal(way.moved)};{' '}
        {volume(way.ml)}
        {cost}, {oneDecimal(way.hours)} h
      </span>
      {way.worse.length > 0 && <span className="block text-sm">Makes worse: {way.worse.join('; ')}</span>}
      {way.faults.length > 0 && <span className="block text-sm">Drawback: {way.faults.join('; ')}</span>}
    </button>
  );
}
