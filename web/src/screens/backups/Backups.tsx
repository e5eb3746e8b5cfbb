import { Save } from 'lucide-react';
import type { Backups as Shown } from '../../api/client';
import { Field } from '../../parts/Field';
import { megabytes } from '../../parts/numbers';
import { TroubleLine } from '../../parts/TroubleLine';
import { clockOf } from '../../parts/times';
import { why } from '../../parts/useAction';
import { useTyped } from '../../parts/useTyped';
import { Failed, Waiting } from '../../parts/Waiting';
import { useBackups } from '../../state/backups';
import { Archive } from './Archive';

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
  const { backups, make, choose } = useBackups();
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
      <Folder data={data} choose={choose} />
      <Archive />
      <h2 className="pt-4 text-xl">Go back to a backup</h2>
      {data.backups.length === 0 ? (
        <p className="max-w-prose text-soft">There are none in this folder yet.</p>
      ) : (
        <>
          <p className="max-w-prose text-soft">
            Stop the program, run the command below the backup in a terminal, and start again. The present
            file is kept beside it, so nothing that is newer is lost.
          </p>
          <Made backups={data.backups} />
        </>
      )}
    </div>
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

function Made({ backups }: { backups: Shown['backups'] }) {
  return (
    <ul>
      {backups.map(({ file, made_at, bytes, restore }) => (
        <li key={file} className="border-t border-line py-2">
          {clock.full(made_at)} <span className="text-soft">{megabytes(bytes)}</span>
          <code className="block text-sm break-all select-all">{restore}</code>
        </li>
      ))}
    </ul>
  );
}
