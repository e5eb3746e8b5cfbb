import { useState } from 'react';
import type { Board, Defect } from '../../api/client';
import { Picker } from '../../parts/Picker';
import { TroubleLine } from '../../parts/TroubleLine';
import { type useBoardChoices, useRescue } from '../../state/boards';
import { mended } from './entry';
import { Way } from './Way';

interface Props {
  entry: Board;
  letter: string;
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  onChange: (entry: Board) => void;
}

/** A strip gone wrong: the ways to fix it, each with what it would do. */
export function Rescue({ entry, letter, choices, onChange }: Props) {
  const [trouble, setTrouble] = useState<Defect>();
  const { data, error, isPlaceholderData } = useRescue(entry, letter, trouble);
  return (
    <section aria-label="Fix a problem" className="grid gap-3 rounded bg-panel p-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="text-base font-semibold">What is wrong with strip {letter}?</h2>
        <Picker
          label="The problem"
          placeholder="Choose"
          choices={choices.troubles}
          value={trouble ?? ''}
          onChange={setTrouble}
        />
      </div>
      {error && <TroubleLine>{error.message}</TroubleLine>}
      {trouble && data && (
        <>
          <p>{data.first}</p>
          {data.ways.length === 0 && (
            <p role="status">Nothing on the shelf fixes this without changing the finish.</p>
          )}
          <ul aria-label="Ways to fix it" className="grid gap-px">
            {data.ways.map((way) => (
              <Way
                key={way.id}
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
