import { Plus, X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Board } from '../../api/client';
import { Segments } from '../../parts/Segments';
import { branched, LETTERS, withoutStrip } from './entry';

interface Props {
  entry: Board;
  letter: string;
  onChoose: (letter: string) => void;
  onChange: (entry: Board) => void;
  /** Ways to look at the strips. */
  children: ReactNode;
}

/** The taped strips: one of them is looked at. */
export function Strips({ entry, letter, onChoose, onChange, children }: Props) {
  const further = branched(entry, letter);
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
      <Segments
        label="Strip"
        choices={entry.strips.map((strip) => ({ id: strip.letter, name: `Strip ${strip.letter}` }))}
        value={letter}
        onChange={onChoose}
      />
      <button
        type="button"
        className="press press-bare text-sm"
        disabled={entry.strips.length >= LETTERS.length}
        onClick={() => {
          if (!further) return;
          onChange(further);
          onChoose(further.strips.at(-1)?.letter ?? letter);
        }}
      >
        <Plus size={18} aria-hidden /> New strip from this one
      </button>
      {entry.strips.length > 1 && (
        <button
          type="button"
          className="press press-bare text-sm"
          onClick={() => onChange(withoutStrip(entry, letter))}
        >
          <X size={18} aria-hidden /> Delete strip {letter}
        </button>
      )}
      <div className="ml-auto flex items-center">{children}</div>
    </div>
  );
}
