import { Plus } from 'lucide-react';
import type { Class } from '../api/client';
import { useTell } from '../parts/Notice';
import { useAction } from '../parts/useAction';
import { usePaintCalls } from '../state/workspace';

/** Puts the medium on the shelf that a finish lacks. */
export function AddMedium({ medium: { class: id, name } }: { medium: { class: string; name: string } }) {
  const calls = usePaintCalls();
  const tell = useTell();
  const { attempt, busy } = useAction();
  const lower = name.toLowerCase();
  const add = async () => {
    const entry = { name: lower, class: id as Class };
    const added = await attempt(`Couldn’t add the ${lower}`, () => calls.make(entry));
    if (added) tell(`${lower} is on the shelf`);
  };
  return (
    <button
      type="button"
      disabled={busy}
      onClick={add}
      className="press press-plain relative z-10 justify-self-start"
    >
      <Plus size={18} aria-hidden /> Add {lower}
    </button>
  );
}
