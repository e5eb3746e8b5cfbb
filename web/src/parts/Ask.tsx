import { AlertDialog } from 'radix-ui';
import { useRef } from 'react';
import { goBackTo } from './focus';

interface Props {
  title: string;
  /** What would happen. */
  words: string;
  yes: string;
  no: string;
  onYes: () => void;
  onClose: () => void;
}

/** A question that has to be answered before anything happens. */
export function Ask({ title, words, yes, no, onYes, onClose }: Props) {
  const opener = useRef<Element>(null);
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && onClose()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content
          onOpenAutoFocus={() => {
            opener.current = document.activeElement;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            goBackTo(opener.current);
          }}
          className="fixed left-1/2 top-[20vh] z-50 grid w-[min(28rem,92vw)] -translate-x-1/2 gap-3 rounded-md bg-ground p-5 shadow-2xl"
        >
          <AlertDialog.Title className="text-2xl">{title}</AlertDialog.Title>
          <AlertDialog.Description>{words}</AlertDialog.Description>
          <div className="flex justify-end gap-2">
            <AlertDialog.Cancel className="press press-plain">{no}</AlertDialog.Cancel>
            <AlertDialog.Action className="press press-ink" onClick={onYes}>
              {yes}
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
