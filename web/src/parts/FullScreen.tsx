import { Expand, X } from 'lucide-react';
import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

const BUTTON = (
  <button type="button" className="press press-bare shrink-0 px-0" aria-label="Full screen">
    <Expand size={20} aria-hidden />
  </button>
);

/** Swatches blown up to fill the screen, with nothing beside them. A button opens it unless there is another trigger. */
export function FullScreen({
  title,
  trigger = BUTTON,
  children,
}: {
  title: string;
  trigger?: ReactNode;
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
