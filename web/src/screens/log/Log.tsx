import { useDeferredValue, useState } from 'react';
import { useSearchParams } from 'react-router';
import { PaintPicker } from '../../parts/PaintPicker';
import { Segments } from '../../parts/Segments';
import { Failed, Waiting } from '../../parts/Waiting';
import { type Narrowed, useLog } from '../../state/log';
import { usePaints, usePiece } from '../../state/workspace';
import { BeforeAfter } from './BeforeAfter';
import { Days } from './Days';
import { HowTrue } from './HowTrue';
import { LooksLike } from './LooksLike';
import { Skills } from './Skills';
import { WhichPiece } from './WhichPiece';
import { WriteNote } from './WriteNote';

const KINDS = [
  { id: 'all', name: 'All' },
  { id: 'mix,pour', name: 'Mixes' },
  { id: 'reading,board-reading', name: 'Readings' },
  { id: 'board', name: 'Boards' },
  { id: 'step', name: 'Steps' },
  { id: 'note,agreed', name: 'Notes' },
] as const;

/** Everything that was done, found again by words, kind, piece, paint and colour. */
export function Log() {
  const [asked, ask] = useSearchParams();
  const { data: piece, isPending: asking } = usePiece();
  const paints = usePaints().data ?? [];
  const set = (values: Record<string, string | undefined>) =>
    ask(
      (before) => {
        for (const [name, value] of Object.entries(values)) {
          if (value) before.set(name, value);
          else before.delete(name);
        }
        return before;
      },
      { replace: true },
    );
  // Typed into a state of its own: the address follows a moment later, and letters would be lost.
  const [search, setSearch] = useState(asked.get('search') ?? '');
  const kinds = asked.get('kinds') ?? '';
  const paint = asked.get('paint') ?? '';
  const onPiece = asked.get('piece') ?? '';
  const client = asked.get('client') ?? '';
  const sought = useDeferredValue(search);
  const narrowed: Narrowed = {
    ...(sought.trim() && { search: sought }),
    ...(kinds && { kinds }),
    ...(onPiece && { piece: onPiece }),
    ...(client && { client }),
    ...(paint && { paint }),
  };
  const log = useLog(narrowed);
  return (
    <div className="flex flex-col lg:h-full lg:flex-row">
      <section
        aria-label="What was done"
        className="relative grid min-w-0 flex-1 content-start gap-3 px-4 pt-1 pb-6 lg:overflow-auto"
      >
        <h1 className="sr-only">Log</h1>
        <search className="grid gap-2">
          <input
            type="search"
            aria-label="Find in the log"
            placeholder="Search paints, pieces, notes"
            className="field w-full"
            value={search}
            onChange={(event) => {
              setSearch(event.target.value);
              set({ search: event.target.value });
            }}
          />
          <div className="flex flex-wrap items-center gap-2">
            <Segments
              label="Kind of entry"
              choices={KINDS}
              value={(kinds || 'all') as (typeof KINDS)[number]['id']}
              onChange={(value) => set({ kinds: value === 'all' ? '' : value })}
              className="flex flex-wrap"
            />
            <PaintPicker
              label="With which paint"
              choices={[
                { id: '', name: 'Any paint' },
                ...paints.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch })),
              ]}
              value={paint}
              onChange={(id) => set({ paint: id })}
              className="max-w-56"
            />
            <WhichPiece
              value={onPiece ? { piece: onPiece } : client ? { client } : {}}
              onChange={({ piece, client }) => set({ piece, client })}
            />
          </div>
        </search>
        {log.isError && !log.data ? (
          <Failed error={log.error} retry={() => log.refetch()} />
        ) : log.data ? (
          <Days log={log} narrowed={Object.keys(narrowed).length > 0} />
        ) : (
          <Waiting rows={10} />
        )}
      </section>
      {/* On a phone the note comes first: it is what is written at the bench. */}
      <aside className="shrink-0 content-start gap-5 max-lg:contents lg:grid lg:w-92 lg:overflow-auto lg:pr-4 lg:pb-6">
        <div className="max-lg:order-first max-lg:px-4 max-lg:pb-4 lg:pt-1">
          <WriteNote piece={piece} asking={asking} />
        </div>
        <div className="grid content-start gap-5 max-lg:px-4 max-lg:pb-6">
          {piece && <BeforeAfter piece={piece.id} />}
          <LooksLike />
          <HowTrue />
          <Skills />
        </div>
      </aside>
    </div>
  );
}
