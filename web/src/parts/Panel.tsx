import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

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
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed left-1/2 top-[12vh] z-50 max-h-[80vh] -translate-x-1/2 overflow-auto rounded-md bg-ground p-5 shadow-2xl ${className}`}
        >
          <Dialog.Title className="mb-3 text-2xl">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
