import { useRef, useState } from 'react';
import { Link } from 'react-router';
import type { BoardInList } from '../../api/client';
import { useLook } from '../../light/light';
import { type useBoardChoices, useReadyFinishes } from '../../state/boards';
import { usePiece } from '../../state/workspace';
import { type Begun, NewBoard } from './NewBoard';
import { ReadyFinishes } from './ReadyFinishes';

interface Props {
  boards: BoardInList[];
  choices: NonNullable<ReturnType<typeof useBoardChoices>>;
  /** True where the address names a board that is not there. */
  gone: boolean;
}

/** All boards, and the way to begin one. */
export function Boards({ boards, choices, gone }: Props) {
  const look = new URLSearchParams(useLook()).toString();
  const [chosen, setChosen] = useState<Partial<Begun>>({});
  const piece = usePiece().data;
  const ground = chosen.ground ?? piece?.entry.ground?.kind ?? 'red-stain';
  const base = chosen.base ?? 'any';
  const finishes = useReadyFinishes(ground, base === 'any' ? undefined : base);
  // What the shelf can make comes first.
  const begun: Begun = { ground, base, template: chosen.template ?? finishes?.[0]?.id ?? 'aged' };
  const change = (part: Partial<Begun>) => setChosen((now) => ({ ...now, ...part }));
  const form = useRef<HTMLElement>(null);
  const choose = (template: string) => {
    change({ template });
    // Where the form stands above, as on a phone, what comes next is there.
    if (form.current && form.current.getBoundingClientRect().bottom < 0) form.current.scrollIntoView();
  };
  return (
    <div className="grid max-w-6xl gap-x-8 gap-y-6 px-4 pb-6 pt-2 md:px-5 lg:grid-cols-[minmax(0,1fr)_22rem] lg:grid-rows-[auto_1fr]">
      <section aria-label="Boards" className="grid content-start gap-3">
        <h1 className="text-3xl">Sample boards</h1>
        {gone && <p className="font-medium">That board was deleted. Undo may bring it back.</p>}
        {boards.length === 0 && (
          <p className="max-w-prose text-soft">
            A sample board shows the finish before you wet a brush. Choose a surface and a finish to start
            from.
          </p>
        )}
        <ul className="grid gap-3 sm:grid-cols-2">
          {boards.map((board) => (
            <li key={board.id}>
              <Link to={`/board/${board.id}`} className="grid bg-panel hover:bg-paper">
                <img
                  src={`/api/boards/${board.id}/picture?${look}&width=520&height=260&revision=${board.revision}`}
                  width={520}
                  height={260}
                  alt=""
                  className="h-auto w-full"
                  style={{ background: board.hexes[0] }}
                />
                <span className="p-3">
                  <span className="block font-semibold">{board.name}</span>
                  <span className="block text-sm text-soft">
                    {board.strips.length > 1 ? `Strips ${board.strips.join(', ')}` : 'One strip'}
                  </span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
      <div className="lg:col-start-2 lg:row-span-2 lg:row-start-1">
        <NewBoard ref={form} choices={choices} begun={begun} onChange={change} />
      </div>
      <ReadyFinishes finishes={finishes} chosen={begun.template} onChoose={choose} />
    </div>
  );
}
