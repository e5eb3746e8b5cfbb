import { type FormEvent, useEffect, useRef, useState } from 'react';
import { type Paint, type PaintEntry, Problem } from '../../api/client';
import { UsualMediums } from '../../common/UsualMediums';
import { useTell } from '../../parts/Notice';
import { useAction } from '../../parts/useAction';
import { useUnsent } from '../../state/unsaved';
import { usePaintCalls, usePaintPreview } from '../../state/workspace';
import { Aside } from './Aside';
import { PaintFields } from './PaintFields';

const BLANK: PaintEntry = { name: '', class: 'chalk' };

/** A tin that is not on the shelf yet. */
export function NewPaint({ onClose, onMade }: { onClose: () => void; onMade: (paint: Paint) => void }) {
  const [entry, setEntry, forgetEntry] = useUnsent('new paint', BLANK);
  const [refused, setRefused] = useState<Problem>();
  const preview = usePaintPreview(entry);
  const calls = usePaintCalls();
  const tell = useTell();
  const { attempt, busy } = useAction();
  // Until somebody tries to keep it, only a colour that was typed is found fault with.
  const typing = entry.colour && preview.error instanceof Problem ? preview.error : undefined;

  // What was refused is brought into sight, with the cursor in it.
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    if (refused) form.current?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
  }, [refused]);

  const keep = async (event: FormEvent) => {
    event.preventDefault();
    const paint = await attempt('Couldn’t save the paint', () => calls.make(entry), setRefused);
    if (!paint) return;
    forgetEntry();
    const white = paint.house_white ? ': it is the house white, for tint tests' : '';
    tell(`${paint.entry.name} is on the shelf${white}`);
    onMade(paint);
  };

  return (
    <Aside
      title={entry.name.trim() || 'New paint'}
      swatch={preview.isEnabled && !preview.error ? preview.data : undefined}
      onClose={onClose}
    >
      <form ref={form} onSubmit={keep} className="grid gap-5" noValidate>
        <PaintFields
          entry={entry}
          onChange={(next) => {
            setEntry(next);
            setRefused(undefined);
          }}
          problem={refused ?? typing}
          begin
        />
        <button type="submit" data-mark="add to shelf" className="press press-ink" disabled={busy}>
          Add to shelf
        </button>
        <UsualMediums onAdded={onClose} />
      </form>
    </Aside>
  );
}
