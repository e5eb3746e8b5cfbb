import { useState } from 'react';
import type { RunSheetView } from '../../api/client';
import { Segments } from '../../parts/Segments';
import type { clockOf } from '../../parts/times';
import { Brushes } from './Brushes';
import { Cost } from './Cost';
import { Pots } from './Pots';
import { Shopping } from './Shopping';

const VIEWS = [
  { id: 'pots', name: 'Mix' },
  { id: 'shopping', name: 'Buy' },
  { id: 'tools', name: 'Tools' },
  { id: 'cost', name: 'Cost' },
] as const;

interface Props {
  sheet: RunSheetView;
  piece: string;
  clock: ReturnType<typeof clockOf>;
}

/** What it takes: pots, packs, brushes, money; and what would make it ready sooner. */
export function Aside({ sheet, piece, clock }: Props) {
  const [view, setView] = useState<(typeof VIEWS)[number]['id']>('pots');
  return (
    <section
      aria-label="What it takes"
      className="relative grid shrink-0 content-start gap-3 px-4 pt-1 pb-6 lg:w-84 lg:overflow-auto lg:pl-0 print:px-0 print:pt-4"
    >
      {sheet.other_ways.length > 0 && <Sooner sheet={sheet} clock={clock} />}
      <Segments
        label="What it takes"
        choices={VIEWS}
        value={view}
        onChange={setView}
        className="flex print:hidden"
      />
      {/* On paper each day has its mixes beside it. */}
      {view === 'pots' && (
        <div className="print:hidden">
          <Pots sheet={sheet} />
        </div>
      )}
      {view === 'shopping' && <Shopping sheet={sheet} piece={piece} />}
      {view === 'tools' && (
        <>
          <Brushes sheet={sheet} piece={piece} clock={clock} />
          <Tools sheet={sheet} />
        </>
      )}
      {view === 'cost' && <Cost sheet={sheet} piece={piece} />}
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

/** What would make it ready sooner, and when it is ready then. */
function Sooner({ sheet, clock }: Omit<Props, 'piece'>) {
  return (
    <table className="mb-2 w-full text-sm print:hidden">
      <caption className="pb-1 text-left text-base font-semibold">Ready sooner</caption>
      <tbody>
        {sheet.other_ways.map(({ id, words, ends }) => (
          <tr key={id} className="border-t border-line">
            <th scope="row" className="py-2 text-left font-normal">
              {words}
            </th>
            <td className="py-2 pl-3 text-right font-semibold whitespace-nowrap">{clock.short(ends)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Tools({ sheet }: { sheet: RunSheetView }) {
  return (
    <ul aria-label="Other tools" className="grid gap-px">
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
