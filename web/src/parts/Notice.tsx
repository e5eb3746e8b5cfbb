// Short words at the foot of the screen after something happened, also for screen readers, with the way back where there is one. What
// went wrong stays until it is closed.

import { X } from 'lucide-react';
import { Toast } from 'radix-ui';
import { createContext, type ReactNode, useCallback, useContext, useState } from 'react';

type Action = { name: string; hint: string; act: () => void };
export type Tells = (words: string, more?: Action | 'stays') => void;

interface Shown {
  words: string;
  more: Action | 'stays' | undefined;
  n: number;
  /** At the head of the screen: what it tells of is at the foot. */
  above: boolean;
}

/** How much of the foot of the screen a notice may cover, px. */
const FOOT = 88;

/** Whether a hand or the cursor is where a notice would lie. */
function wasLow() {
  const low = (bottom: number) => bottom > window.innerHeight - FOOT;
  const at = document.activeElement?.getBoundingClientRect();
  // The cursor on what fills the screen is nowhere.
  return low(pressed) || (at !== undefined && at.height < 2 * FOOT && low(at.bottom));
}

let pressed = 0;
window.addEventListener('pointerdown', ({ clientY }) => (pressed = clientY), {
  capture: true,
  passive: true,
});

const Tell = createContext<Tells>(() => {});

export const useTell = () => useContext(Tell);

export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Shown>();
  const tell = useCallback<Tells>(
    (words, more) => setNotice((old) => ({ words, more, n: (old?.n ?? 0) + 1, above: wasLow() })),
    [],
  );
  const stays = notice?.more === 'stays';
  const action = notice?.more === 'stays' ? undefined : notice?.more;
  return (
    <Tell value={tell}>
      <Toast.Provider label="Notice">
        {children}
        {notice && (
          <Toast.Root
            key={notice.n}
            type={stays ? 'foreground' : 'background'}
            duration={stays ? Number.POSITIVE_INFINITY : action ? 10_000 : 4000}
            className="on-dark flex items-center gap-3 rounded bg-ink px-4 py-2 font-medium text-white shadow-lg"
            onOpenChange={(open) => !open && setNotice(undefined)}
          >
            <Toast.Description className="py-1">{notice.words}</Toast.Description>
            {action && (
              <Toast.Action altText={action.hint} className="press bg-paper text-ink" onClick={action.act}>
                {action.name}
              </Toast.Action>
            )}
            {stays && (
              <Toast.Close
                aria-label="Close this message"
                title="Close this message"
                className="press -mr-3 px-2"
              >
                <X size={20} aria-hidden />
              </Toast.Close>
            )}
          </Toast.Root>
        )}
        <Toast.Viewport
          label="Messages ({hotkey})"
          className={`print:hidden fixed left-1/2 z-50 -translate-x-1/2 outline-none ${notice?.above ? 'top-16' : 'bottom-4'}`}
        />
      </Toast.Provider>
    </Tell>
  );
}
