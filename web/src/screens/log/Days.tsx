import { useEffect, useState } from 'react';
import type { LogGroup } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { clockOf } from '../../parts/times';
import type { useLog } from '../../state/log';
import { usePlace } from '../../state/unsaved';
import { Entry } from './Entry';
import { MakeAgain } from './MakeAgain';

const clock = clockOf(undefined);

/** The log day by day, the newest first. */
export function Days({ log, narrowed }: { log: ReturnType<typeof useLog>; narrowed: boolean }) {
  const [again, setAgain] = useState<number>();
  const pages = log.data?.pages ?? [];
  // As far back as on leaving: a log that was no longer in memory is read page by page.
  const [back, setBack] = usePlace('log pages', 1);
  const { hasNextPage, isFetchingNextPage, isFetchNextPageError, fetchNextPage } = log;
  useEffect(() => {
    const more = pages.length > 0 && pages.length < back && hasNextPage;
    if (more && !isFetchingNextPage && !isFetchNextPageError) void fetchNextPage({ cancelRefetch: false });
  }, [pages.length, back, hasNextPage, isFetchingNextPage, isFetchNextPageError, fetchNextPage]);
  // A day may go on from one page to the next.
  const days: { day: string; groups: LogGroup[] }[] = [];
  for (const { day, groups } of pages.flatMap((page) => page.days)) {
    const last = days.at(-1);
    if (last?.day === day) last.groups.push(...groups);
    else days.push({ day, groups: [...groups] });
  }
  if (days.length === 0)
    return (
      <p className="py-6 text-soft">
        {narrowed
          ? 'No matches. Try fewer words or another filter.'
          : 'Nothing yet. Everything you mix, pour, read and tick off is logged here.'}
      </p>
    );
  return (
    <div className="grid gap-3">
      {days.map(({ day, groups }) => (
        <section key={day} aria-label={dayWords(day)} className="grid gap-px">
          <h2 className="py-1 text-lg">{dayWords(day)}</h2>
          <ol className="grid gap-px">
            {groups.map((group) =>
              group.title ? (
                <Many key={group.entries[0]?.id} group={group} onAgain={setAgain} />
              ) : (
                group.entries.map((entry) => (
                  <li key={entry.id}>
                    <Entry entry={entry} clock={clock} onAgain={setAgain} />
                  </li>
                ))
              ),
            )}
          </ol>
        </section>
      ))}
      {hasNextPage && (
        <button
          type="button"
          className="press press-plain justify-self-start"
          disabled={isFetchingNextPage}
          onClick={() => {
            setBack(pages.length + 1);
            void fetchNextPage();
          }}
        >
          Older
        </button>
      )}
      <MakeAgain line={again} onClose={() => setAgain(undefined)} />
    </div>
  );
}

/** Midday, so that the day is the same on every clock. */
const dayWords = (day: string) => clock.day(`${day}T12:00:00`);

/** Many of a kind as one line, which opens. */
function Many({ group, onAgain }: { group: LogGroup; onAgain: (line: number) => void }) {
  const [open, setOpen] = useState(false);
  const first = group.entries[0];
  return (
    <li>
      <details className="bg-panel" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className="flex min-h-11 cursor-pointer items-center gap-3 px-3 py-1.5">
          <span className="w-17 shrink-0 text-sm whitespace-nowrap tabular-nums">
            {first && clock.time(first.at)}
          </span>
          <span className="flex-1">
            <span className="font-semibold">{group.title}</span>
            {first?.piece_name && <span className="text-sm text-soft"> · {first.piece_name}</span>}
          </span>
          <span className="flex">
            {group.entries
              .slice(0, 8)
              .map(({ id, swatch }) => swatch && <Drawdown key={id} swatch={swatch} className="h-8 w-7" />)}
          </span>
        </summary>
        {open && (
          <ol className="grid gap-px bg-line pt-px">
            {group.entries.map((entry) => (
              <li key={entry.id}>
                <Entry entry={entry} clock={clock} onAgain={onAgain} />
              </li>
            ))}
          </ol>
        )}
      </details>
    </li>
  );
}
