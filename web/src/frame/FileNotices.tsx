// What the painter should hear of the workspace file itself.

import { X } from 'lucide-react';
import { useState } from 'react';
import { useNotices } from '../state/workspace';

export function FileNotices() {
  const notices = useNotices();
  const [read, setRead] = useState<string[]>([]);
  const open = notices.filter((notice) => !read.includes(notice));
  return (
    <div role="status" className="print:hidden">
      {open.map((notice) => (
        <p key={notice} className="flex items-start gap-3 bg-ink px-4 py-2 text-white on-dark">
          <span className="flex-1 py-2 break-words first-letter:uppercase">{notice}.</span>
          <button
            type="button"
            aria-label="Close this notice"
            title="Close this notice"
            className="press px-2"
            onClick={() => setRead((before) => [...before, notice])}
          >
            <X size={20} aria-hidden />
          </button>
        </p>
      ))}
    </div>
  );
}
