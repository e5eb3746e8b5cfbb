import { useTell } from '../parts/Notice';
import { useAction } from '../parts/useAction';
import { usePaintCalls } from '../state/workspace';

/** The mediums that most finishes need, put on the shelf in one touch. */
export function UsualMediums({ onAdded }: { onAdded?: () => void }) {
  const calls = usePaintCalls();
  const tell = useTell();
  const { attempt, busy } = useAction();
  const add = () =>
    attempt('Couldn’t add the mediums', async () => {
      const added = await calls.addUsualMediums();
      const names = added.map(({ entry }) => entry.name).join(', ');
      tell(added.length > 0 ? `On the shelf now: ${names}` : 'They are all on the shelf already');
      onAdded?.();
    });
  return (
    <button
      type="button"
      data-mark="add the usual mediums"
      className="press press-bare text-sm"
      title="Glazing liquid, extender, water, clear coat, clear wax"
      disabled={busy}
      onClick={add}
    >
      Add the usual mediums
    </button>
  );
}
