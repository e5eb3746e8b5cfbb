import { Archive, CircleHelp, Eye, Redo2, Ruler, Search, Undo2, Wifi } from 'lucide-react';
import { Suspense, useRef, useState } from 'react';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { LightControl } from '../light/LightControl';
import { useLight } from '../light/light';
import { StateControl } from '../light/StateControl';
import { useFocusKept } from '../parts/focus';
import { useTell } from '../parts/Notice';
import { useMe } from '../state/network';
import { useOthers } from '../state/others';
import { useHistory, useUndo } from '../state/workspace';
import { DemoLine } from './DemoLine';
import { FileNotices } from './FileNotices';
import { FirstHour } from './FirstHour';
import { GuestLine } from './GuestLine';
import { Help, type HelpTab } from './Help';
import { Jump } from './Jump';
import { PendingReadings } from './PendingReadings';
import { PieceName } from './PieceName';
import { Pieces } from './Pieces';
import { SavingState } from './SavingState';
import { isLit, SCREENS, useArrival, usePlaces } from './screens';
import { isFor, type Tool, Tools } from './Tools';
import { Trouble } from './Trouble';
import { useKeys } from './useKeys';
import { useRing } from './useRing';
import { useScrollKept } from './useScrollKept';

/** What is around every screen: the rail, the piece, the light, undo, jump and help. */
export function Frame() {
  const [asking, setAsking] = useState<'jump' | HelpTab>();
  const tell = useTell();
  useFocusKept();
  useOthers();
  useRing();
  const { units, setUnits } = useLight();
  const role = useMe().data?.role;
  const history = useHistory();
  const { pathname: place } = useLocation();
  useScrollKept(place);
  const lastAt = usePlaces();
  const screen = useRef<HTMLElement>(null);
  useArrival(screen);
  const go = useNavigate();
  const undo = useUndo('undo', tell);
  const redo = useUndo('redo', tell);
  useKeys(
    {
      jump: () => setAsking('jump'),
      help: () => setAsking('keys'),
      undo: () => undo.mutate(undefined),
      redo: () => redo.mutate(undefined),
    },
    (screen) => go(lastAt(screen)),
  );

  const tools: Tool[] = [
    { id: 'jump', name: 'Find', shown: 'Find', icon: Search, act: () => setAsking('jump') },
    {
      id: 'undo',
      shown: 'Undo',
      name: history.data?.undo ? `Undo ${history.data.undo.words}` : 'Undo',
      icon: Undo2,
      act: () => undo.mutate(undefined),
      off: !history.data?.undo,
    },
    {
      id: 'redo',
      shown: 'Redo',
      name: history.data?.redo ? `Redo ${history.data.redo.words}` : 'Redo',
      icon: Redo2,
      act: () => redo.mutate(undefined),
      off: !history.data?.redo,
    },
    {
      id: 'units',
      name: units === 'metric' ? 'mm: switch to inches' : 'in: switch to mm',
      icon: Ruler,
      shown: units === 'metric' ? 'mm' : 'in',
      act: () => setUnits(units === 'metric' ? 'imperial' : 'metric'),
    },
    {
      id: 'practice',
      name: 'Practice',
      shown: 'Practice',
      icon: Eye,
      act: () => go('/practice'),
      for: 'helper',
    },
    {
      id: 'backups',
      name: 'Backups',
      shown: 'Backups',
      icon: Archive,
      act: () => go('/backups'),
      for: 'helper',
    },
    {
      id: 'network',
      name: 'Network',
      shown: 'Network',
      icon: Wifi,
      act: () => go('/network'),
      for: 'painter',
    },
    {
      id: 'help',
      name: 'Help',
      shown: 'Help',
      icon: CircleHelp,
      act: () => setAsking('start'),
    },
  ];

  return (
    <div className="flex h-full flex-col-reverse md:flex-row print:block print:h-auto">
      <a
        href="#screen"
        className="press press-ink fixed top-2 left-2 z-50 -translate-y-20 focus:translate-y-0"
      >
        Skip to the screen
      </a>
      <div className="on-dark flex shrink-0 bg-rail text-rail-soft md:w-19 md:flex-col md:shortest:overflow-y-auto print:hidden">
        <nav aria-label="Screens" className="flex flex-1 md:flex-col">
          {SCREENS.map(({ to, name, icon: Icon }) => (
            <NavLink
              key={to}
              to={lastAt(to)}
              data-mark={`screen ${to}`}
              className="grid min-h-15 flex-1 place-items-center content-center gap-1 text-sm font-medium whitespace-nowrap hover:text-white max-md:text-xs md:min-h-18 md:flex-none md:short:min-h-13 aria-[current=page]:bg-ground aria-[current=page]:text-ink"
            >
              <Icon size={24} aria-hidden />
              {name}
            </NavLink>
          ))}
        </nav>
        <Tools tools={tools.filter((tool) => isFor(tool, role))} />
      </div>
      <div className="flex min-h-0 min-w-0 flex-1 flex-col">
        <DemoLine />
        <GuestLine />
        <FileNotices />
        <PendingReadings />
        <FirstHour />
        <header className="flex shrink-0 flex-wrap items-center gap-x-2 px-3 pt-2 max-md:justify-between md:flex-nowrap md:px-4 print:hidden">
          <div className="flex min-w-0 items-center gap-x-2 max-md:basis-full">
            <PieceName />
            <Pieces />
            <SavingState />
          </div>
          <div className="flex-1 max-md:hidden" />
          {isLit(place) && (
            <>
              <StateControl />
              <LightControl />
            </>
          )}
        </header>
        <main
          ref={screen}
          id="screen"
          tabIndex={-1}
          className="min-h-0 flex-1 overflow-auto outline-none print:overflow-visible"
        >
          <Trouble place={place}>
            <Suspense>
              <Outlet />
            </Suspense>
          </Trouble>
        </main>
      </div>
      <Jump open={asking === 'jump'} onClose={() => setAsking(undefined)} />
      <Help
        at={asking === 'jump' ? undefined : asking}
        onTab={setAsking}
        onClose={() => setAsking(undefined)}
      />
    </div>
  );
}
