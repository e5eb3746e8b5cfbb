// Short words at the foot of the screen after something happened, also for screen readers.

import { Toast } from 'radix-ui';
import { createContext, type ReactNode, useCallback, useContext, useState } from 'react';

const Tell = createContext<(words: string) => void>(() => {});

export const useTell = () => useContext(Tell);

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<{ words: string; n: number }>();
  const tell = useCallback((words: string) => setNotice((old) => ({ words, n: (old?.n ?? 0) + 1 })), []);
  return (
    <Tell value={tell}>
      <Toast.Provider duration={4000} label="Notice">
        {children}
        {notice && (
          <Toast.Root
            key={notice.n}
            className="rounded bg-ink px-4 py-3 font-medium text-white shadow-lg"
            onOpenChange={(open) => !open && setNotice(undefined)}
          >
            <Toast.Description>{notice.words}</Toast.Description>
          </Toast.Root>
        )}
        <Toast.Viewport className="print:hidden fixed bottom-4 left-1/2 z-50 -translate-x-1/2 outline-none" />
      </Toast.Provider>
    </Tell>
  );
}
