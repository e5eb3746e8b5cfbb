// What the painter should hear of the workspace file itself.

import { X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { useNotices, useSetAside } from '../state/workspace';

export function FileNotices() {
  const notices = useNotices();
  const { entries, remove } = useSetAside();
  const [read, setRead] = useState<string[]>([]);
  const close = (key: string) => setRead((before) => [...before, key]);
  return (
    <div role="status" className="print:hidden">
      {notices
        .filter((notice) => !read.includes(notice))
        .map((notice) => (
          <Notice key={notice} words={`${notice}.`} onClose={() => close(notice)} />
        ))}
      {entries
        .filter((entry) => !read.includes(entry.id))
        .map((entry) => (
          <Notice key={entry.id} words={entry.words} onClose={() => close(entry.id)}>
            <button type="button" className="press px-3 underline" onClick={() => remove(entry.id)}>
              Delete it
            </button>
          </Notice>
        ))}
    </div>
  );
}

function Notice(props: { words: string; onClose: () => void; children?: ReactNode }) {
  return (
    <p className="flex items-start gap-3 bg-ink px-4 py-2 text-white on-dark">
      <span className="flex-1 py-2 break-words first-letter:uppercase">{props.words}</span>
      {props.children}
      <button
        type="button"
        aria-label="Close this notice"
        title="Close this notice"
        className="press px-2"
        onClick={props.onClose}
      >
        <X size={20} aria-hidden />
      </button>
    </p>
  );
}
