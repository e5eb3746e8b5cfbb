import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import type { FirstStep } from '../api/client';
import { useFirstHour, useFollowed } from '../state/guide';
import { useMe } from '../state/network';

/** On which screen a step is done, and what to press there: the last of a row that is on the screen is marked. */
const WHERE: Record<FirstStep, { to: string; marks: string[] }> = {
  white: { to: '/shelf', marks: ['close', 'add a paint', 'add to shelf'] },
  base: { to: '/shelf', marks: ['close', 'add a paint', 'add to shelf'] },
  strong: { to: '/shelf', marks: ['close', 'add a paint', 'add to shelf'] },
  'tint-test': { to: '/shelf', marks: ['close', 'paint to test', 'first test'] },
  pour: { to: '/pot', marks: ['paints', 'start pouring', 'finish pouring'] },
  board: { to: '/board', marks: ['add the usual mediums', 'create board'] },
  piece: { to: '/piece', marks: ['kinds of piece', 'finish', 'dress every part'] },
  day: { to: '/run-sheet', marks: ['tick'] },
};

/** The next step of the first hour in one line, and a marker where to look. It never covers the screen. */
export function FirstHour() {
  const guest = useMe().data?.role === 'guest';
  const { shown, skipped, skip, putAway } = useFollowed();
  const hour = useFirstHour(shown);
  const { pathname } = useLocation();
  const left = hour?.steps.filter(({ step, done }) => !done && !skipped.includes(step)) ?? [];
  const next = left[0];
  // Who followed the steps sees that they are done.
  const [followed, setFollowed] = useState(false);
  const offered = hour?.offered ?? false;
  useEffect(() => {
    if (offered) setFollowed(true);
  }, [offered]);
  const wanted = !guest && hour !== undefined && (shown ?? (offered || followed));
  const where = next && WHERE[next.step];
  const there = where && pathname.startsWith(where.to);
  const marked = useMarked(wanted && where ? (there ? where.marks : [`screen ${where.to}`]) : []);
  if (!wanted) return null;
  const done = hour.steps.filter(({ done }) => done).length;
  return (
    <>
      <aside
        aria-label="First hour"
        className="flex flex-wrap items-center gap-x-3 bg-paper px-4 py-1 md:flex-nowrap md:px-5 print:hidden"
      >
        {next ? (
          <>
            <Progress done={done} of={hour.steps.length} />
            <p className="min-w-0 flex-1 max-md:basis-full">
              <b className="font-semibold">{next.words}.</b> <span className="text-soft">{next.reason}</span>
            </p>
            {where && !there && (
              <Link to={where.to} className="press press-plain shrink-0">
                Show me
              </Link>
            )}
            <button
              type="button"
              className="press press-bare shrink-0 text-sm"
              onClick={() => skip(next.step)}
            >
              Skip
            </button>
          </>
        ) : (
          <p className="flex-1">
            <b className="font-semibold">
              {done === hour.steps.length ? 'That was the first hour.' : 'You have seen all the steps.'}
            </b>{' '}
            <span className="text-soft">They are under Help if you want them again.</span>
          </p>
        )}
        <button type="button" className="press press-bare shrink-0 text-sm" onClick={putAway}>
          {next ? 'Not now' : 'Close'}
        </button>
      </aside>
      {marked && <Marker at={marked} />}
    </>
  );
}

/** Steps done out of all, as small squares. */
function Progress({ done, of }: { done: number; of: number }) {
  return (
    <span role="img" aria-label={`${done} of ${of} steps done`} className="flex shrink-0 gap-1 max-md:hidden">
      {Array.from({ length: of }, (_, n) => `step ${n + 1}`).map((step, n) => (
        <span key={step} className={`size-2.5 ${n < done ? 'bg-ink' : 'outline outline-ink'}`} />
      ))}
    </span>
  );
}

interface Spot {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How often is looked where a marked thing has gone, ms. */
const LOOKED = 200;

/** Where the last of these marks that can be seen lies in the window. */
function useMarked(marks: string[]): Spot | undefined {
  const [spot, setSpot] = useState<Spot>();
  const names = marks.join('|');
  useEffect(() => {
    const look = () => {
      const found = names
        .split('|')
        .toReversed()
        .map((name) => document.querySelector<HTMLElement>(`[data-mark="${name}"]`))
        .find((element) => element?.checkVisibility());
      const box = found?.getBoundingClientRect();
      const covered = document.querySelector('[role="dialog"]') !== null;
      setSpot((before) => {
        if (!box || covered) return undefined;
        const now = { x: box.x, y: box.y, width: box.width, height: box.height };
        const same =
          before && Object.entries(now).every(([key, value]) => before[key as keyof Spot] === value);
        return same ? before : now;
      });
    };
    look();
    const again = setInterval(look, LOOKED);
    return () => clearInterval(again);
  }, [names]);
  return names ? spot : undefined;
}

/** A dashed frame around what to press next. It takes no clicks. */
function Marker({ at: { x, y, width, height } }: { at: Spot }) {
  return (
    <span
      aria-hidden
      data-testid="marker"
      className="pointer-events-none fixed z-30 rounded-md ring-2 ring-white outline-3 outline-offset-2 outline-ink outline-dashed print:hidden"
      style={{ left: x, top: y, width, height }}
    />
  );
}
