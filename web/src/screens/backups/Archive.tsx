import { FileDown, FileUp } from 'lucide-react';
import { useState } from 'react';
import type { ArchivePreview } from '../../api/client';
import { FileChoice } from '../../parts/FileChoice';
import { useTell } from '../../parts/Notice';
import { Panel } from '../../parts/Panel';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { TroubleLine } from '../../parts/TroubleLine';
import { clockOf } from '../../parts/times';
import { useAction, why } from '../../parts/useAction';
import { useArchive, type VersionKept } from '../../state/backups';
import { useBoards } from '../../state/boards';
import { usePieces } from '../../state/piece';
import { useMixes } from '../../state/workspace';

const clock = clockOf(null);

const VERSIONS = [
  { id: 'newer', name: 'The newer one' },
  { id: 'mine', name: 'Mine' },
  { id: 'theirs', name: 'The archive’s' },
] as const satisfies readonly { id: VersionKept; name: string }[];

/** Stands for everything. */
const ALL = 'all';

/** What can be exported. */
function useThings() {
  const { pieces } = usePieces();
  const boards = useBoards().data ?? [];
  const mixes = useMixes().data ?? [];
  return [
    { id: ALL, name: 'Everything' },
    ...pieces.map(({ id, name }) => ({ id, name: `Piece: ${name}` })),
    ...boards.map(({ id, name }) => ({ id, name: `Board: ${name}` })),
    ...mixes.flatMap(({ id, entry }) => (entry.name ? [{ id, name: `Mix: ${entry.name}` }] : [])),
  ];
}

/** Everything as one file, and other workspaces taken in from such a file. */
export function Archive() {
  const { preview } = useArchive();
  const [chosen, setChosen] = useState<{ file: File; plan: ArchivePreview }>();
  const [trouble, setTrouble] = useState<string>();
  const [reading, setReading] = useState(false);
  const [of, setOf] = useState(ALL);
  const things = useThings();
  const look = async (file: File) => {
    setReading(true);
    try {
      setChosen({ file, plan: await preview(file) });
      setTrouble(undefined);
    } catch (error) {
      setTrouble(why(error));
    }
    setReading(false);
  };
  return (
    <section className="grid gap-3 pt-4">
      <h2 className="text-xl">Everything in one file</h2>
      <p className="max-w-prose text-soft">
        An archive holds your paints, mixes, boards, pieces, log and photos. Other programs can open it, and
        another Warm Blend can import it. One mix, board or piece goes with all that it needs.
      </p>
      <div className="flex flex-wrap gap-2">
        <Picker label="What to export" choices={things} value={of} onChange={setOf} className="max-w-full" />
        <a
          className="press press-plain"
          href={of === ALL ? '/api/archive' : `/api/archive?of=${of}`}
          download
        >
          <FileDown size={18} aria-hidden /> Export an archive
        </a>
        <FileChoice
          name={reading ? 'Reading the archive' : 'Import an archive'}
          icon={FileUp}
          accept=".zip,application/zip"
          onChosen={(file) => void look(file)}
        />
      </div>
      {trouble && <TroubleLine>{trouble}</TroubleLine>}
      {chosen && <TakeIn {...chosen} onClose={() => setChosen(undefined)} />}
    </section>
  );
}

interface Props {
  file: File;
  plan: ArchivePreview;
  onClose: () => void;
}

/** What an archive would bring; nothing is written until that is accepted. */
function TakeIn({ file, plan, onClose }: Props) {
  const { takeIn } = useArchive();
  const tell = useTell();
  const { attempt, busy } = useAction();
  const [stays, setStays] = useState<VersionKept>('newer');
  const isNothing = plan.new.length === 0 && plan.different.length === 0 && plan.photos === 0;
  const accept = async () => {
    const done = await attempt('Couldn’t import the archive', () => takeIn(file, stays));
    if (!done) return;
    tell(`Imported: ${done.added} new, ${done.changed} changed. Undo takes it out again.`);
    onClose();
  };
  return (
    <Panel open onClose={onClose} title="Import an archive" className="w-[min(46rem,94vw)]">
      <div className="grid gap-4">
        <p>
          {isNothing ? 'Everything in it is here already.' : 'It brings'}{' '}
          <span className="text-soft">(exported {clock.both(plan.made_at)})</span>
        </p>
        <ul aria-label="What is new" className="grid gap-1">
          {plan.new.map(({ words, names, more }) => (
            <li key={words}>
              <span className="font-semibold first-letter:uppercase">{words}</span>
              {names.length > 0 && (
                <span className="text-soft">
                  : {names.join(', ')}
                  {more > 0 && ` and ${more} more`}
                </span>
              )}
            </li>
          ))}
          {plan.photos > 0 && (
            <li className="font-semibold">{plan.photos === 1 ? '1 photo' : `${plan.photos} photos`}</li>
          )}
        </ul>
        {plan.same > 0 && !isNothing && (
          <p className="text-soft">
            {plan.same === 1 ? '1 entry is' : `${plan.same} entries are`} the same in both.
          </p>
        )}
        {plan.different.length > 0 && (
          <>
            <table className="w-full text-left text-sm">
              <caption className="pb-1 text-left text-base font-semibold">Changed in both</caption>
              <thead>
                <tr className="text-soft">
                  <th className="pr-3 font-medium">Entry</th>
                  <th className="pr-3 font-medium">Here</th>
                  <th className="font-medium">In the archive</th>
                </tr>
              </thead>
              <tbody>
                {plan.different.map(({ id, kind, name, mine, theirs, deleted }) => (
                  <tr key={id} className="border-t border-line">
                    <td className="py-1.5 pr-3">
                      <bdi className="font-semibold">{name ?? kind}</bdi>
                      {name && <span className="text-soft"> {kind}</span>}
                    </td>
                    <td className="py-1.5 pr-3">{deleted ? 'deleted' : clock.both(mine)}</td>
                    <td className="py-1.5">{clock.both(theirs)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <div>
              <p className="text-sm text-soft">Which stays?</p>
              <Segments label="Which stays" choices={VERSIONS} value={stays} onChange={setStays} />
            </div>
          </>
        )}
        <div className="flex justify-end gap-2">
          <button type="button" className="press press-plain" onClick={onClose}>
            Cancel
          </button>
          <button type="button" className="press press-ink" disabled={busy || isNothing} onClick={accept}>
            Import it
          </button>
        </div>
      </div>
    </Panel>
  );
}
