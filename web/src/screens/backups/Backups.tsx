import { History, Save } from 'lucide-react';
import { useState } from 'react';
import type { Backups as Shown } from '../../api/client';
import { Ask } from '../../parts/Ask';
import { Field } from '../../parts/Field';
import { useTell } from '../../parts/Notice';
import { megabytes } from '../../parts/numbers';
import { TroubleLine } from '../../parts/TroubleLine';
import { clockOf } from '../../parts/times';
import { useAction, why } from '../../parts/useAction';
import { useTyped } from '../../parts/useTyped';
import { Failed, Waiting } from '../../parts/Waiting';
import { useBackups } from '../../state/backups';
import { useMe } from '../../state/network';
import { Archive } from './Archive';
import { Trash } from './Trash';

const clock = clockOf(null);

/** How safe the work is, in one sentence. */
function verdict({ last, is_changed }: Shown) {
  if (!last) return 'No backup has been made yet.';
  return is_changed
    ? `Last backup: ${clock.both(last)}. Something has changed since.`
    : `Everything is backed up: ${clock.both(last)}.`;
}

/** Copies of the workspace file: the last, the folder, and how to go back to one. */
export function Backups() {
  const { backups, make, choose, goBackTo } = useBackups();
  const atTheMachine = !useMe().data?.role;
  if (backups.isError) return <Failed error={backups.error} retry={() => void backups.refetch()} />;
  if (!backups.data) return <Waiting />;
  const { data } = backups;
  const trouble = make.error ? why(make.error) : data.failed;
  return (
    <div className="grid max-w-4xl gap-3 px-4 pt-2 pb-8 md:px-5">
      <h1 className="text-3xl">Backups</h1>
      <p className="text-lg" role="status">
        {verdict(data)}
      </p>
      {trouble && <TroubleLine>{trouble}</TroubleLine>}
      <button
        type="button"
        className="press press-ink justify-self-start"
        disabled={make.isPending}
        onClick={() => make.mutate()}
      >
        <Save size={18} aria-hidden /> {make.isPending ? 'Backing up' : 'Back up now'}
      </button>
      <p className="max-w-prose text-soft">
        {data.by_itself
          ? 'While you work, a backup is made every hour in which something changed. The last ten are kept, then one a day for two weeks, one a week for two months, and one a month after that.'
          : 'The demo is deleted when you stop it, so it is backed up only when you ask.'}
      </p>
      {!atTheMachine && (
        <p className="max-w-prose text-soft">
          Going back to a backup, and choosing where they go, is done at the workshop’s machine.
        </p>
      )}
      {atTheMachine && <GoBack data={data} goBackTo={goBackTo} choose={choose} />}
      <Trash />
      <Archive />
    </div>
  );
}

type Calls = ReturnType<typeof useBackups>;

/** The backups, and where they go. */
function GoBack({ data, goBackTo, choose }: { data: Shown } & Pick<Calls, 'goBackTo' | 'choose'>) {
  return (
    <>
      <h2 className="pt-4 text-xl">Go back to a backup</h2>
      {data.backups.length === 0 ? (
        <p className="max-w-prose text-soft">There are none in this folder yet.</p>
      ) : (
        <>
          <p className="max-w-prose text-soft">
            What you have done since is set aside in a file of its own, so nothing is lost. If the program
            does not start, the command below a backup does the same.
          </p>
          <Made backups={data.backups} goBackTo={goBackTo} />
        </>
      )}
      <Folder data={data} choose={choose} />
    </>
  );
}

function Folder({ data, choose }: { data: Shown; choose: ReturnType<typeof useBackups>['choose'] }) {
  const take = (folder: string | null) => (folder === data.folder ? choose.reset() : choose.mutate(folder));
  const { text, setText, leaving } = useTyped(data.folder, (folder) => take(folder.trim() || null));
  return (
    <section className="grid gap-2 pt-4">
      <h2 className="text-xl">Where they go</h2>
      <Field
        label="Folder"
        value={text}
        onChange={setText}
        error={choose.error ? why(choose.error) : undefined}
        hint={
          data.is_usual
            ? 'On the same disk as your work. A folder on another disk, or one that is synced, is still there if this machine fails.'
            : undefined
        }
        className="max-w-2xl"
        {...leaving}
      />
      {!data.is_usual && (
        <button type="button" className="press press-plain justify-self-start" onClick={() => take(null)}>
          Use the usual folder
        </button>
      )}
    </section>
  );
}

type Named = Shown['backups'][number];

/** Those that are gone back to most. */
const LATEST = 5;

function Made({
  backups,
  goBackTo,
}: {
  backups: Named[];
  goBackTo: ReturnType<typeof useBackups>['goBackTo'];
}) {
  const tell = useTell();
  const { attempt, busy } = useAction();
  const [meant, setMeant] = useState<Named>();
  const [all, setAll] = useState(false);
  const shown = all ? backups : backups.slice(0, LATEST);
  const go = async ({ name, made_at }: Named) => {
    const done = await attempt('Couldn’t go back to the backup', () => goBackTo(name));
    if (!done) return;
    tell(`Everything is as it was ${clock.both(made_at)}. What was newer is in ${done.set_aside}.`);
  };
  return (
    <>
      <ul>
        {shown.map((backup) => (
          <li
            key={backup.name}
            className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-line py-2 sm:flex-nowrap"
          >
            <span className="min-w-0">
              {clock.full(backup.made_at)} <span className="text-soft">{megabytes(backup.bytes)}</span>
              <code className="block text-sm break-all select-all">{backup.restore}</code>
            </span>
            <button
              type="button"
              className="press press-plain shrink-0"
              disabled={busy}
              aria-label={`Go back to ${clock.full(backup.made_at)}`}
              onClick={() => setMeant(backup)}
            >
              <History size={18} aria-hidden /> Go back
            </button>
          </li>
        ))}
      </ul>
      {shown.length < backups.length && (
        <button type="button" className="press press-plain justify-self-start" onClick={() => setAll(true)}>
          Show {backups.length - shown.length} older
        </button>
      )}
      {meant && (
        <Ask
          title={`Go back to ${clock.both(meant.made_at)}?`}
          words="Everything will be as it was then. What you have done since is set aside in a file beside your workspace."
          yes="Go back"
          no="Stay here"
          onYes={() => void go(meant)}
          onClose={() => setMeant(undefined)}
        />
      )}
    </>
  );
}
