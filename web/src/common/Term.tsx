import { Popover } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import type { TermId, TermView } from '../api/client';
import { keyed } from '../parts/keyed';
import { useTerms } from '../state/guide';

interface Props {
  id: TermId;
  /** The paint it is explained with, where one is looked at. */
  paint?: string | undefined;
  children: ReactNode;
}

/** A term of the trade: touched, it says in two sentences and a picture what it means. */
export function Term({ id, paint, children }: Props) {
  const [open, setOpen] = useState(false);
  const term = useTerms(open, paint)?.find(({ term }) => term === id);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="cursor-help rounded-xs underline decoration-dotted underline-offset-4">
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={8}
          aria-label={term ? term.name : 'Explanation'}
          className="z-50 w-80 max-w-[92vw] rounded-md bg-paper p-4 text-ink shadow-2xl"
        >
          {term ? <Explained term={term} /> : <p className="h-32 text-soft">Drawing…</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What a term means. */
export function Explained({ term: { name, words, panes } }: { term: TermView }) {
  return (
    <div className="grid gap-2">
      <h3 className="font-display text-xl font-semibold">{name}</h3>
      <div className="flex gap-3">
        {panes.map((pane) => (
          <figure key={pane.words} className="grid min-w-0 gap-1" style={{ flexGrow: pane.cells.length }}>
            <Cells codes={pane.cells} short={pane.below.length > 0} />
            {pane.below.length > 0 && <Cells codes={pane.below} short />}
            <figcaption className="text-sm text-soft">{pane.words}</figcaption>
          </figure>
        ))}
      </div>
      <p>{words}</p>
    </div>
  );
}

/** Colours that touch each other. */
function Cells({ codes, short }: { codes: string[]; short: boolean }) {
  return (
    <div aria-hidden className={`flex ${short ? 'h-8 not-first:-mt-1' : 'h-16'}`}>
      {keyed(codes, (hex) => hex).map(({ key, item: hex }) => (
        <span key={key} className="min-w-3 flex-1" style={{ background: hex }} />
      ))}
    </div>
  );
}
