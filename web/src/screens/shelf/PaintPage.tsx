import { Trash2 } from 'lucide-react';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import { type Paint, Problem } from '../../api/client';
import { Conflict } from '../../parts/Conflict';
import { useTell } from '../../parts/Notice';
import { useDraft } from '../../state/useDraft';
import { usePaintCalls, usePaintPreview } from '../../state/workspace';
import { Aside } from './Aside';
import { PaintFields } from './PaintFields';

/** A tin on the shelf: every change is kept at once. */
export function PaintPage({ paint, onClose }: { paint: Paint; onClose: () => void }) {
  const calls = usePaintCalls();
  const tell = useTell();
  const draft = useDraft(paint, calls.put(paint.id), calls.get(paint.id), calls.saved);
  const preview = usePaintPreview(draft.entry);
  const [using, setUsing] = useState<string[]>();

  const remove = async (confirmed: boolean) => {
    setUsing(undefined);
    try {
      await calls.remove(paint, confirmed);
      tell(`${paint.entry.name} is off the shelf; undo brings it back`);
      onClose();
    } catch (error) {
      if (error instanceof Problem && error.is('in-use')) {
        setUsing((error.body.used_by ?? []).map((mix) => mix.name ?? 'a mix without a name'));
      } else {
        tell(error instanceof Problem ? error.message : 'Not removed: the program does not answer');
      }
    }
  };

  return (
    <Aside
      title={paint.entry.name}
      swatch={preview.error ? paint.swatch : (preview.data ?? paint.swatch)}
      onClose={onClose}
    >
      {draft.conflict && <Conflict what="paint" conflict={draft.conflict} />}
      <PaintFields key={draft.origin} entry={draft.entry} onChange={draft.type} problem={draft.problem} />
      <button type="button" className="press press-plain mt-6 w-full" onClick={() => remove(false)}>
        <Trash2 size={18} aria-hidden /> Take it off the shelf
      </button>
      <AlertDialog.Root open={using !== undefined} onOpenChange={(open) => !open && setUsing(undefined)}>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
          <AlertDialog.Content className="fixed left-1/2 top-[20vh] z-50 grid w-[min(28rem,92vw)] -translate-x-1/2 gap-3 rounded-md bg-ground p-5 shadow-2xl">
            <AlertDialog.Title className="text-2xl">Take {paint.entry.name} off the shelf?</AlertDialog.Title>
            <AlertDialog.Description>
              It is in {using?.join(', ')}. {using?.length === 1 ? 'That mix keeps' : 'Those mixes keep'} the
              record of it.
            </AlertDialog.Description>
            <div className="flex justify-end gap-2">
              <AlertDialog.Cancel className="press press-plain">Leave it</AlertDialog.Cancel>
              <AlertDialog.Action className="press press-ink" onClick={() => remove(true)}>
                Take it off
              </AlertDialog.Action>
            </div>
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
    </Aside>
  );
}
