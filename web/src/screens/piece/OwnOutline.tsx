import { FileUp } from 'lucide-react';
import { useState } from 'react';
import type { Outlined, PatternRoom, Problem } from '../../api/client';
import { Field } from '../../parts/Field';
import { FileChoice } from '../../parts/FileChoice';
import { TroubleLine } from '../../parts/TroubleLine';
import { useAction } from '../../parts/useAction';
import { useOutline } from '../../state/piece';

interface Props {
  own: Outlined | null | undefined;
  /** What a word is to fill. */
  room: PatternRoom;
  /** With its size, mm, where it is a word: it stands once and large. */
  onChange: (own: Outlined, size: number | null | undefined) => void;
}

/** Largest file that is read at all, bytes: the program says how large a drawing may be. */
const READABLE = 4_000_000;

/** A pattern of the painter's own: a word, or a drawing as SVG. */
export function OwnOutline({ own, room, onChange }: Props) {
  const make = useOutline();
  const { attempt, busy } = useAction();
  const [word, setWord] = useState('');
  const [problem, setProblem] = useState<Problem>();
  const take = async (asked: Parameters<typeof make>[0]) => {
    setProblem(undefined);
    const made = await attempt('Couldn’t make the stencil', () => make(asked), setProblem);
    if (made) onChange(made.own, made.size);
  };
  const bring = async (file: File) => {
    const svg = await file.slice(0, READABLE).text();
    await take({ svg, name: file.name.replace(/\.svg$/i, '').slice(0, 60) });
  };
  const wrong = problem?.at('/svg') ?? problem?.at('/name');
  return (
    <details open={own != null}>
      <summary className="min-h-11 cursor-pointer py-3 text-sm font-semibold">
        A word or your own drawing
      </summary>
      <div className="grid gap-2">
        {own && (
          <p className="flex items-center gap-3">
            <svg
              role="img"
              aria-label={`Cut-out: ${own.name}`}
              viewBox="0 0 1000 1000"
              className="size-16 shrink-0"
            >
              <path d={own.path} fill="currentColor" />
            </svg>
            <span className="min-w-0 truncate text-sm">{own.name}</span>
          </p>
        )}
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void take({ word, room });
          }}
        >
          <Field
            label="Word"
            className="min-w-0 flex-1"
            value={word}
            onChange={setWord}
            error={problem?.at('/word')}
          />
          <button type="submit" className="press press-plain" disabled={busy || word.trim() === ''}>
            Cut it
          </button>
        </form>
        <FileChoice
          name="Bring an SVG drawing"
          icon={FileUp}
          accept=".svg,image/svg+xml"
          onChosen={(file) => void bring(file)}
        />
        {wrong && <TroubleLine className="text-sm">{wrong}</TroubleLine>}
      </div>
    </details>
  );
}
