// Short words at the foot of the screen after something happened, also for screen readers, with the way back where there is one.

import { Toast } from 'radix-ui';
import { createContext, type ReactNode, useCallback, useContext, useState } from 'react';

type Action = { name: string; hint: string; act: () => void };
type Tells = (words: string, action?: Action) => void;

const Tell = createContext<Tells>(() => {});

export const useTell = () => useContext(Tell);

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<{ words: string; action: Action | undefined; n: number }>();
  const tell = useCallback<Tells>(
    (words, action) => setNotice((old) => ({ words, action, n: (old?.n ?? 0) + 1 })),
    [],
  );
  return (
    <Tell value={tell}>
      <Toast.Provider label="Notice">
        {children}
        {notice && (
          <Toast.Root
            key={notice.n}
            duration={notice.action ? 10_000 : 4000}
            className="on-dark flex items-center gap-3 rounded bg-ink px-4 py-2 font-medium text-white shadow-lg"
            onOpenChange={(open) => !open && setNotice(undefined)}
          >
            <Toast.Description className="py-1">{notice.words}</Toast.Description>
            {notice.action && (
              <Toast.Action
                altText={notice.action.hint}
                className="press bg-paper text-ink"
                onClick={notice.action.act}
              >
                {notice.action.name}
              </Toast.Action>
            )}
          </Toast.Root>
        )}
        <Toast.Viewport className="print:hidden fixed bottom-4 left-1/2 z-50 -translate-x-1/2 outline-none" />
      </Toast.Provider>
    </Tell>
  );
}
