import { Download } from 'lucide-react';
import { useState } from 'react';
import type { RunSheetView } from '../../api/client';
import { plainNumber } from '../../parts/numbers';
import { Segments } from '../../parts/Segments';
import { clockOf, lasting } from '../../parts/times';
import { useMoney } from '../../state/workshop';
import { Pots } from './Pots';

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

const ml = (value: number) => `${Math.round(value)} ml`;

function Shopping({ sheet, piece }: { sheet: RunSheetView; piece: string }) {
  const money = useMoney();
  return (
    <div className="grid gap-2">
      <ul aria-label="Shopping" className="grid gap-px">
        {sheet.shopping.map((row) => (
          <li key={row.name} className="bg-panel px-3 py-2">
            <p className="flex justify-between gap-3">
              <span className="min-w-0 truncate font-semibold">{row.name}</span>
              <span className="whitespace-nowrap">
                {row.packs === 0
                  ? 'enough'
                  : row.packs == null
                    ? 'buy some: no pack is known'
                    : `buy ${row.packs} × ${ml(row.pack ?? 0)}`}
                {row.packs != null && row.packs > 0 && row.cost != null && `, ${money(row.cost)}`}
              </span>
            </p>
            <p className="text-sm text-soft">
              {ml(row.needed)} of {ml(row.stock)} in stock
              {row.left > 0 && `; ${ml(row.left)} left, a coat of ${plainNumber(row.covers)} m²`}
            </p>
          </li>
        ))}
      </ul>
      <a
        className="press press-bare justify-self-start text-sm print:hidden"
        href={`/api/pieces/${piece}/run-sheet/shopping`}
        download="shopping.csv"
      >
        <Download size={18} aria-hidden /> As a table
      </a>
    </div>
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

function Cost({ sheet }: { sheet: RunSheetView }) {
  const money = useMoney();
  const { cost, paces, schemes } = sheet;
  const clock = clockOf(sheet.entry.hours.zone);
  const rows = [
    ['Paints and products', cost.materials],
    [`Work, ${lasting(60 * cost.hours)}`, cost.work],
    ['Overhead', cost.overhead],
  ] as const;
  return (
    <div className="grid gap-3">
      <dl className="grid gap-px">
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between bg-panel px-3 py-2">
            <dt>{name}</dt>
            <dd>{money(value)}</dd>
          </div>
        ))}
        <div className="flex items-baseline justify-between bg-paper px-3 py-2 font-semibold">
          <dt>Price to ask</dt>
          <dd className="text-xl">{money(cost.price)}</dd>
        </div>
      </dl>
      <p className="text-sm text-soft">
        {cost.price_per_m2 != null && `${money(cost.price_per_m2)} for a square metre. `}
        {cost.budget != null && `The brief allows ${money(cost.budget)}.`}
      </p>
      {schemes.length > 1 && (
        <section aria-label="Schemes from here on" className="grid gap-1">
          <h2 className="text-lg">Schemes from here on</h2>
          <ul className="grid gap-px">
            {schemes.map((scheme) => (
              <li key={scheme.name} className="bg-panel px-3 py-2">
                <p className={scheme.chosen ? 'font-semibold' : ''}>
                  {scheme.name}
                  {scheme.chosen && ' (this one)'}
                </p>
                <p className="text-sm text-soft">
                  {scheme.ends && `Ready ${clock.both(scheme.ends)}, ${lasting(scheme.minutes)} of work, `}
                  {money(scheme.materials)} of paint
                </p>
              </li>
            ))}
          </ul>
        </section>
      )}
      {paces.length > 0 && (
        <section aria-label="Your pace" className="grid gap-1">
          <h2 className="text-lg">Your pace</h2>
          <ul className="text-sm">
            {paces.map(({ technique, factor, within }) => (
              <li key={technique}>
                {technique}: {plainNumber(factor)} × the usual, within {plainNumber(within)} ×
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
