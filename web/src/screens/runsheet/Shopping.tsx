import { Download } from 'lucide-react';
import type { RunSheetView } from '../../api/client';
import { Term } from '../../common/Term';
import { useMoney } from '../../state/workshop';

/** What is to be bought, and where a cheaper first coat would do. */
export function Shopping({ sheet, piece }: { sheet: RunSheetView; piece: string }) {
  const money = useMoney();
  return (
    <div className="grid gap-2">
      <p className="text-sm text-soft print:hidden">
        Amounts are what goes on: <Term id="applied-and-left">applied, not left</Term>.
      </p>
      <ul aria-label="Shopping" className="grid gap-px">
        {sheet.shopping.map((row) => (
          <li key={row.name} className="bg-panel px-3 py-2">
            <p className="flex justify-between gap-3">
              <span className="min-w-0 truncate font-semibold">{row.name}</span>
              <span className="whitespace-nowrap">
                {row.buys}
                {row.packs != null && row.packs > 0 && row.cost != null && `, ${money(row.cost)}`}
              </span>
            </p>
            <p className="text-sm text-soft">{row.words}</p>
          </li>
        ))}
      </ul>
      {sheet.undercoats.map(({ words, saves }) => (
        <p key={words} className="text-sm">
          {words}: saves {money(saves)}, and the top coat covers it.
        </p>
      ))}
      <a
        className="press press-bare justify-self-start text-sm print:hidden"
        href={`/api/pieces/${piece}/run-sheet/shopping`}
        download="shopping.csv"
      >
        <Download size={18} aria-hidden /> Download CSV
      </a>
    </div>
  );
}
