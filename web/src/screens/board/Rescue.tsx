import { useState } from 'react';
import type { BoardEntry, WayTold } from '../../api/client';
import { Picker } from '../../parts/Picker';
import { type useBoardChoices, useRescue } from '../../state/boards';
import { mended, PLACES } from './entry';

interface Props {
  entry: BoardEntry;
  letter: string;
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  onChange: (entry: BoardEntry) => void;
}

/** A strip gone wrong: the ways back, each with what it would do. */
export function Rescue({ entry, letter, choices, onChange }: Props) {
  const [trouble, setTrouble] = useState<string>();
  const { data, error, isPlaceholderData } = useRescue(entry, letter, trouble);
  return (
    <section aria-label="It went wrong" className="grid gap-3 rounded bg-panel p-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="text-base font-semibold">What is wrong with strip {letter}?</h2>
        <Picker
          label="What went wrong"
          placeholder="Choose"
          choices={choices.troubles}
          value={trouble ?? ''}
          onChange={setTrouble}
        />
      </div>
      {error && (
        <p role="alert" className="font-medium text-alarm first-letter:uppercase">
          {error.message}
        </p>
      )}
      {trouble && data && (
        <>
          <p>{data.first}</p>
          {data.ways.length === 0 && (
            <p role="status">Nothing on the shelf helps here without making it another finish.</p>
          )}
          <ul aria-label="Ways back" className="grid gap-px">
            {data.ways.map((way) => (
              <Way
                key={way.words}
                way={way}
                before={data.before}
                source={data.source}
                stale={isPlaceholderData}
                onTake={() => onChange(mended(entry, letter, way))}
              />
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

interface WayProps {
  way: WayTold;
  before: string[];
  source: string;
  stale: boolean;
  onTake: () => void;
}

/** A way back: as it is above, as it would be below, place by place. */
function Way({ way, before, source, stale, onTake }: WayProps) {
  return (
    <li className="grid grid-cols-[9rem_minmax(0,1fr)_auto] items-center gap-3 bg-ground py-1 pr-2">
      <span
        role="img"
        aria-label={`Now ${before.join(', ')}; then ${way.after.join(', ')}`}
        className="flex h-14"
      >
        {PLACES.map((place, i) => (
          <span key={place} className="flex flex-1 flex-col">
            <span className="flex-1" style={{ background: before[i] }} />
            <span className="flex-1" style={{ background: way.after[i] }} />
          </span>
        ))}
      </span>
      <span className="min-w-0 text-sm leading-tight">
        <b className="block text-base font-semibold">{way.words}</b>
        <span className="block first-letter:uppercase">{way.moves}</span>
        <span className="block text-soft first-letter:uppercase">
          {way.why} ({source})
        </span>
      </span>
      <button
        type="button"
        className="press press-ink text-sm"
        aria-label={`Do it: ${way.words}`}
        disabled={stale}
        onClick={onTake}
      >
        Do it
      </button>
    </li>
  );
}
