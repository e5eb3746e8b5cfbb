import { useState } from 'react';
import type { RunSheetView } from '../../api/client';
import { Segments } from '../../parts/Segments';
import { Cost } from './Cost';
import { Pots } from './Pots';
import { Shopping } from './Shopping';

const VIEWS = [
  { id: 'pots', name: 'Mix' },
  { id: 'shopping', name: 'Buy' },
  { id: 'tools', name: 'Tools' },
  { id: 'cost', name: 'Cost' },
] as const;

/** What it takes: pots, packs, brushes, money. */
export function Aside({ sheet, piece }: { sheet: RunSheetView; piece: string }) {
  const [view, setView] = useState<(typeof VIEWS)[number]['id']>('pots');
  return (
    <section
      aria-label="What it takes"
      className="relative grid shrink-0 content-start gap-3 px-4 pt-1 pb-6 lg:w-92 lg:overflow-auto lg:pl-0 print:px-0"
    >
      <Segments
        label="What it takes"
        choices={VIEWS}
        value={view}
        onChange={setView}
        className="flex print:hidden"
      />
      {view === 'pots' && <Pots sheet={sheet} />}
      {view === 'shopping' && <Shopping sheet={sheet} piece={piece} />}
      {view === 'tools' && <Tools sheet={sheet} />}
      {view === 'cost' && <Cost sheet={sheet} />}
      {sheet.notes.length > 0 && (
        <ul className="grid list-disc gap-1 pl-5 text-sm text-soft">
          {sheet.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Tools({ sheet }: { sheet: RunSheetView }) {
  return (
    <ul aria-label="Tools" className="grid gap-px">
      {sheet.tools.map((tool) => (
        <li key={tool.name} className="bg-panel px-3 py-2">
          <p className="font-semibold">
            {tool.count != null && `${tool.count} × `}
            {tool.name}
          </p>
          <p className="text-sm text-soft first-letter:uppercase">{tool.why}.</p>
        </li>
      ))}
    </ul>
  );
}
