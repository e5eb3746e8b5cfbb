import { Plus } from 'lucide-react';
import { LookRound } from '../../common/LookRound';
import { UsualMediums } from '../../common/UsualMediums';
import { Files } from './Files';

/** What to do first. */
export function EmptyShelf({ onAdd }: { onAdd: () => void }) {
  return (
    <div className="m-auto grid max-w-md justify-items-center gap-4 p-8 text-center">
      <div aria-hidden className="flex h-20 w-80 max-w-full flex-col">
        <div className="flex-1 bg-paper" />
        <div className="flex-1 bg-ink" />
      </div>
      <h2 className="text-2xl">Start with your white</h2>
      <p>
        Add the paints you own, starting with the white you mix with: a name, its chip colour, and how many
        coats it takes to cover. Two paints are enough to start mixing.
      </p>
      <div className="flex flex-wrap justify-center gap-2">
        <button type="button" data-mark="add a paint" className="press press-ink" onClick={onAdd}>
          <Plus size={20} aria-hidden /> Add a paint
        </button>
        <UsualMediums />
        <Files first />
      </div>
      <LookRound />
    </div>
  );
}
