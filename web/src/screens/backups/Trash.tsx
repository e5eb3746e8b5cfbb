import { Undo2 } from 'lucide-react';
import { useTell } from '../../parts/Notice';
import { clockOf } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import { useTrash } from '../../state/backups';

const clock = clockOf(null);

/** What was deleted lately, and can be brought back. */
export function Trash() {
  const { trash, bringBack } = useTrash();
  const tell = useTell();
  const { attempt, busy } = useAction();
  if (!trash.data?.length) return null;
  const back = async (id: string, words: string) => {
    const done = await attempt('Couldn’t bring it back', async () => {
      await bringBack(id);
      return true;
    });
    if (done) tell(`${words} is back`);
  };
  return (
    <section className="grid gap-2 pt-4">
      <h2 className="text-xl">Deleted in the last 30 days</h2>
      <ul>
        {trash.data.map(({ id, kind, words, at }) => (
          <li key={id} className="flex items-center justify-between gap-3 border-t border-line py-1.5">
            <span className="min-w-0">
              <bdi className="font-semibold">{words}</bdi>{' '}
              <span className="text-soft">
                {kind}, {clock.both(at)}
              </span>
            </span>
            <button
              type="button"
              className="press press-plain shrink-0"
              aria-label={`Bring back ${words}`}
              disabled={busy}
              onClick={() => void back(id, words)}
            >
              <Undo2 size={18} aria-hidden /> Bring back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
