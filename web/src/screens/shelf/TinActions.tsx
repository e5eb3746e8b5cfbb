import { Merge, Star, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type Paint, Problem } from '../../api/client';
import { Ask } from '../../parts/Ask';
import { Drawdown } from '../../parts/Drawdown';
import { useTell } from '../../parts/Notice';
import { Panel } from '../../parts/Panel';
import { why } from '../../parts/useAction';
import { useTellDeleted } from '../../state/useTellDeleted';
import { useWorkshopCalls } from '../../state/workshop';
import { usePaintCalls } from '../../state/workspace';

interface Props {
  paint: Paint;
  shelf: Paint[];
  onClose: () => void;
  onGo: (id: string) => void;
}

/** What can be done with a tin as a whole. */
export function TinActions({ paint, shelf, onClose, onGo }: Props) {
  const calls = usePaintCalls();
  const workshop = useWorkshopCalls();
  const tell = useTell();
  const tellDeleted = useTellDeleted();
  const [using, setUsing] = useState<string[]>();
  const [merging, setMerging] = useState(false);

  const unless = (failed: string) => (error: unknown) => tell(`${failed}: ${why(error)}`);

  const remove = async (confirmed: boolean) => {
    setUsing(undefined);
    try {
      await calls.remove(paint, confirmed);
      void tellDeleted(paint.entry.name, paint.id);
      onClose();
    } catch (error) {
      if (error instanceof Problem && error.is('in-use')) {
        setUsing(
          (error.body.used_by ?? []).map(({ kind, name }) => `the ${kind} ${name ?? 'without a name'}`),
        );
      } else unless('Couldn’t delete the paint')(error);
    }
  };

  const merge = async (keep: Paint) => {
    setMerging(false);
    try {
      await calls.merge(keep.id, paint.id);
      tell(`${paint.entry.name} merged into ${keep.entry.name}. Undo separates them.`);
      onGo(keep.id);
    } catch (error) {
      unless('Couldn’t merge the paints')(error);
    }
  };

  return (
    <div className="grid gap-2">
      {!paint.medium && !paint.house_white && (
        <button
          type="button"
          className="press press-plain"
          onClick={() => workshop.chooseHouseWhite(paint.id).catch(unless('Couldn’t choose the house white'))}
        >
          <Star size={18} aria-hidden /> Make it the house white
        </button>
      )}
      {shelf.length > 1 && (
        <button type="button" className="press press-plain" onClick={() => setMerging(true)}>
          <Merge size={18} aria-hidden /> Merge with…
        </button>
      )}
      <button type="button" className="press press-plain" onClick={() => remove(false)}>
        <Trash2 size={18} aria-hidden /> Delete this paint
      </button>
      <Panel open={merging} onClose={() => setMerging(false)} title={`Merge ${paint.entry.name} with…`}>
        <p className="mb-3 text-soft">
          The paint you choose takes over its mixes, readings and stock, and this tin leaves the shelf. Undo
          separates them again.
        </p>
        <ul aria-label="The tin that stays" className="max-h-[48vh] overflow-auto">
          {shelf
            .filter((other) => other.id !== paint.id && other.medium === paint.medium)
            .map((other) => (
              <li key={other.id}>
                <button
                  type="button"
                  onClick={() => merge(other)}
                  className="flex h-12 w-full items-center gap-3 text-left cursor-pointer hover:bg-panel focus-visible:-outline-offset-3"
                >
                  <Drawdown swatch={other.swatch} className="h-11 w-24 shrink-0" />
                  <bdi className="truncate">{other.entry.name}</bdi>
                </button>
              </li>
            ))}
        </ul>
      </Panel>
      {using && (
        <Ask
          title={`Delete ${paint.entry.name}?`}
          words={`Used in ${using.join(', ')}. It stays on record there.`}
          yes="Delete"
          no="Keep it"
          onYes={() => void remove(true)}
          onClose={() => setUsing(undefined)}
        />
      )}
    </div>
  );
}
