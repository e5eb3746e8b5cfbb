import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, ZoomIn, ZoomOut } from 'lucide-react';
import { useState } from 'react';
import type { PieceEntry } from '../../api/client';
import { BY_THE_WINDOW, Lamp } from '../../parts/Lamp';
import { Elevation } from './Elevation';

interface Props {
  entry: PieceEntry;
  scheme: number;
  view: string;
}

const WHOLE = { closer: 1, x: 0.5, y: 0.5 };
const MOST = 8;

/** The piece on the whole screen, stepped up to by a touch on it or by buttons. */
export function FromClose({ entry, scheme, view }: Props) {
  const [at, setAt] = useState(WHOLE);
  const [lit, setLit] = useState(BY_THE_WINDOW);
  const stand = (closer: number, x: number, y: number) => {
    const by = Math.min(MOST, Math.max(1, closer));
    const within = (share: number) => Math.min(1 - 0.5 / by, Math.max(0.5 / by, share));
    setAt({ closer: by, x: within(x), y: within(y) });
  };
  const aside = (dx: number, dy: number) =>
    stand(at.closer, at.x + (0.25 * dx) / at.closer, at.y + (0.25 * dy) / at.closer);
  const moves = [
    { name: 'Left', icon: ArrowLeft, act: () => aside(-1, 0) },
    { name: 'Right', icon: ArrowRight, act: () => aside(1, 0) },
    { name: 'Up', icon: ArrowUp, act: () => aside(0, -1) },
    { name: 'Down', icon: ArrowDown, act: () => aside(0, 1) },
  ];
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <Elevation
        entry={entry}
        scheme={scheme}
        view={view}
        large
        from={at}
        lit={lit}
        onPoint={(x, y) => stand(2 * at.closer, at.x + (x - 0.5) / at.closer, at.y + (y - 0.5) / at.closer)}
      />
      <div className="flex flex-wrap items-center justify-center gap-1 p-2">
        <button
          type="button"
          className="press press-plain"
          disabled={at.closer >= MOST}
          onClick={() => stand(2 * at.closer, at.x, at.y)}
        >
          <ZoomIn size={20} aria-hidden /> Closer
        </button>
        <button
          type="button"
          className="press press-plain"
          disabled={at.closer <= 1}
          onClick={() => stand(at.closer / 2, at.x, at.y)}
        >
          <ZoomOut size={20} aria-hidden /> Further back
        </button>
        {moves.map(({ name, icon: Icon, act }) => (
          <button
            key={name}
            type="button"
            className="press press-bare px-0"
            aria-label={name}
            disabled={at.closer <= 1}
            onClick={act}
          >
            <Icon size={20} aria-hidden />
          </button>
        ))}
        <Lamp lit={lit} onChange={setLit} />
      </div>
    </div>
  );
}
