import { X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** Swatches blown up to fill the screen, with nothing beside them. */
export function FullScreen({
  title,
  trigger,
  children,
}: {
  title: string;
  trigger: ReactNode;
  children: ReactNode;
}) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>{trigger}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-0 z-50 flex flex-col bg-ground outline-none"
        >
          <div className="flex min-h-14 items-center justify-between pl-5 pr-2">
            <Dialog.Title className="text-xl">{title}</Dialog.Title>
            <Dialog.Close className="press press-bare" aria-label="Close the full screen">
              <X aria-hidden />
            </Dialog.Close>
          </div>
          <div className="flex min-h-0 flex-1">{children}</div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
