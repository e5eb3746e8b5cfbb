import { Link } from 'react-router';
import type { RunSheetView } from '../api/client';
import { useMoney } from '../state/workshop';

/** What is used of each tin and what that costs. A price is changed on the paint's own page. */
export function TinCosts({ tins }: { tins: RunSheetView['cost']['tins'] }) {
  const money = useMoney();
  return (
    <table className="w-full">
      <thead className="sr-only">
        <tr>
          <th>Paint</th>
          <th>Amount</th>
          <th>Cost</th>
        </tr>
      </thead>
      <tbody>
        {tins.map(({ paint, name, amount, cost }) => (
          <tr key={paint} className="[&>*]:py-0.5">
            <th scope="row" className="text-left font-normal">
              <Link to={`/shelf/${paint}`} className="underline underline-offset-3">
                {name}
              </Link>
            </th>
            <td className="px-2 text-right whitespace-nowrap">{amount}</td>
            <td className="text-right whitespace-nowrap">{cost == null ? 'no price' : money(cost)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
