import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { type ReactNode, useRef } from 'react';
import { goBackTo } from './focus';

const FIELDS = ':is(a[href], button:enabled, input:enabled, textarea, [tabindex="0"])';

/** A dialog in the middle of the screen. */
export function Panel({
  open,
  onClose,
  title,
  children,
  className = 'w-[min(34rem,92vw)]',
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  className?: string;
}) {
  const opener = useRef<Element>(null);
  const body = useRef<HTMLDivElement>(null);
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={(event) => {
            opener.current = document.activeElement;
            // What it is for comes first, not the way out.
            const first = body.current?.querySelector<HTMLElement>(FIELDS);
            if (!first) return;
            event.preventDefault();
            first.focus();
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            goBackTo(opener.current);
          }}
          className={`fixed left-1/2 top-[12vh] z-50 max-h-[80vh] -translate-x-1/2 overflow-auto rounded-md bg-ground p-5 shadow-2xl ${className}`}
        >
          <div className="mb-3 flex items-start justify-between gap-3">
            <Dialog.Title className="text-2xl">{title}</Dialog.Title>
            <Dialog.Close
              className="press press-bare -mt-2 -mr-2 shrink-0 px-0"
              aria-label="Close"
              title="Close"
            >
              <X size={22} aria-hidden />
            </Dialog.Close>
          </div>
          <div ref={body}>{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
