import { CircleHelp, PaintBucket, Redo2, Search, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { NavLink, Outlet } from 'react-router';
import { LightControl } from '../light/LightControl';
import { useTell } from '../parts/Notice';
import { useHistory, useUndo } from '../state/workspace';
import { Jump } from './Jump';
import { PieceName } from './PieceName';
import { SavingState } from './SavingState';
import { ShelfIcon } from './ShelfIcon';
import { Shortcuts } from './Shortcuts';
import { useKeys } from './useKeys';

const SCREENS = [
  { to: '/shelf', name: 'Shelf', icon: ShelfIcon },
  { to: '/pot', name: 'Pot', icon: PaintBucket },
];

/** What is around every screen: the rail, the piece, the light, undo, jump and help. */
export function Frame() {
  const [asking, setAsking] = useState<'jump' | 'keys'>();
  const tell = useTell();
  const history = useHistory();
  const undo = useUndo('undo', tell);
  const redo = useUndo('redo', tell);
  useKeys({
    jump: () => setAsking('jump'),
    help: () => setAsking('keys'),
    undo: () => undo.mutate(),
    redo: () => redo.mutate(),
  });

  return (
    <div className="flex h-full flex-col-reverse md:flex-row">
      <nav aria-label="Screens" className="on-dark flex shrink-0 bg-rail text-rail-soft md:w-19 md:flex-col">
        {SCREENS.map(({ to, name, icon: Icon }) => (
          <NavLink
            key={to}
            to={to}
            className="grid min-h-15 flex-1 place-items-center content-center gap-1 text-sm font-medium hover:text-white md:min-h-18 md:flex-none aria-[current=page]:bg-ground aria-[current=page]:text-ink"
          >
            <Icon size={24} aria-hidden />
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="flex min-h-0 min-w-0 flex-1 flex-col">
        <header className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1 px-3 pt-2 md:flex-nowrap md:px-4">
          <PieceName />
          <SavingState />
          <div className="flex-1" />
          <LightControl />
          <div className="flex">
            <button
              type="button"
              className="press press-bare px-0"
              aria-label={history.data?.undo ? `Undo ${history.data.undo.words}` : 'Undo'}
              disabled={!history.data?.undo}
              onClick={() => undo.mutate()}
            >
              <Undo2 size={20} aria-hidden />
            </button>
            <button
              type="button"
              className="press press-bare px-0"
              aria-label={history.data?.redo ? `Redo ${history.data.redo.words}` : 'Redo'}
              disabled={!history.data?.redo}
              onClick={() => redo.mutate()}
            >
              <Redo2 size={20} aria-hidden />
            </button>
            <button
              type="button"
              className="press press-bare px-0"
              aria-label="Jump to"
              onClick={() => setAsking('jump')}
            >
              <Search size={20} aria-hidden />
            </button>
            <button
              type="button"
              className="press press-bare px-0"
              aria-label="Keys"
              onClick={() => setAsking('keys')}
            >
              <CircleHelp size={20} aria-hidden />
            </button>
          </div>
        </header>
        <main className="min-h-0 flex-1 overflow-auto">
          <Outlet />
        </main>
      </div>
      <Jump open={asking === 'jump'} onClose={() => setAsking(undefined)} />
      <Shortcuts open={asking === 'keys'} onClose={() => setAsking(undefined)} />
    </div>
  );
}
