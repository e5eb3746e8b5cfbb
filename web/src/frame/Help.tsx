import { Eye, Footprints } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { Link } from 'react-router';
import { LookRound } from '../common/LookRound';
import { Explained } from '../common/Term';
import { Panel } from '../parts/Panel';
import { useFollowed, useTerms } from '../state/guide';
import { Shortcuts } from './Shortcuts';

const TABS = [
  { id: 'start', name: 'Getting started' },
  { id: 'words', name: 'Words' },
  { id: 'keys', name: 'Keyboard shortcuts' },
] as const;

export type HelpTab = (typeof TABS)[number]['id'];

/** Help: the first steps, the words, the keys. */
export function Help({
  at,
  onTab,
  onClose,
}: {
  at: HelpTab | undefined;
  onTab: (tab: HelpTab) => void;
  onClose: () => void;
}) {
  return (
    <Panel open={at !== undefined} onClose={onClose} title="Help" className="w-[min(44rem,94vw)]">
      <Tabs.Root value={at ?? 'start'} onValueChange={(tab) => onTab(tab as HelpTab)}>
        <Tabs.List aria-label="Help" className="mb-4 flex border-b border-line">
          {TABS.map(({ id, name }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="press press-bare rounded-none border-b-3 border-transparent text-soft data-[state=active]:border-ink data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="start">
          <Start onClose={onClose} />
        </Tabs.Content>
        <Tabs.Content value="words">
          <Words />
        </Tabs.Content>
        <Tabs.Content value="keys">
          <Shortcuts />
        </Tabs.Content>
      </Tabs.Root>
      <Link to="/about" onClick={onClose} className="press mt-2 -ml-4 font-medium underline">
        About Warm Blend, and licences
      </Link>
    </Panel>
  );
}

function Start({ onClose }: { onClose: () => void }) {
  const { takeUp } = useFollowed();
  return (
    <div className="grid justify-items-start gap-4">
      <p className="max-w-prose">
        Eight steps lead from an empty shelf to the first day’s work, with your own paints, on the screens
        themselves. One line at the top says what comes next; a dashed frame shows where.
      </p>
      <button
        type="button"
        className="press press-ink"
        onClick={() => {
          takeUp();
          onClose();
        }}
      >
        <Footprints size={20} aria-hidden /> Show me the first steps
      </button>
      <Link to="/practice" onClick={onClose} className="press press-plain">
        <Eye size={20} aria-hidden /> Practise eye and hand
      </Link>
      <LookRound />
    </div>
  );
}

/** Every explained term. */
function Words() {
  const terms = useTerms(true);
  if (!terms) return <p className="text-soft">Drawing…</p>;
  return (
    <ul className="grid gap-6 sm:grid-cols-2">
      {terms.map((term) => (
        <li key={term.term}>
          <Explained term={term} />
        </li>
      ))}
    </ul>
  );
}
