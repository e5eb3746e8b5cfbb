import type { ReactNode } from 'react';
import type { Piece, PiecePrediction } from '../../api/client';
import { FullScreen } from '../../parts/FullScreen';
import { useStandings } from '../../state/piece';
import { Colours } from './Colours';
import { Elevation } from './Elevation';
import { paintedOf, schemesOf } from './entry';

/** All schemes beside each other, touching; below them whether each holds together, and what every part wears. */
export function Compare({ entry }: { entry: Piece }) {
  if (schemesOf(entry).length < 2) return null;
  return (
    <FullScreen
      title="The schemes side by side"
      trigger={
        <button type="button" className="press press-bare px-2 text-sm">
          Compare
        </button>
      }
    >
      <Schemes entry={entry} />
    </FullScreen>
  );
}

function Schemes({ entry }: { entry: Piece }) {
  const schemes = schemesOf(entry);
  const standings = useStandings(entry, schemes.length);
  const parts = paintedOf(standings.find((standing) => standing)?.zones);
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <table className="w-full table-fixed border-separate border-spacing-x-px border-spacing-y-0 text-left">
        <thead>
          <tr>
            <td className="w-28 max-sm:w-20" />
            {schemes.map((scheme, n) => (
              <th key={String(n)} scope="col" className="pb-2 align-bottom font-normal">
                <Elevation entry={entry} scheme={n} view="front" />
                <span className="block px-3 pt-2 text-lg font-semibold">{scheme.name}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <Row name="Verdict" standings={standings}>
            {({ verdict }) => (
              <span className="block px-3 py-2 leading-tight">
                <b className="block font-semibold">{verdict.headline}</b>
                <span className="block text-sm text-soft">{verdict.detail}</span>
              </span>
            )}
          </Row>
          {parts.map(({ zone, name }) => (
            <Row key={zone} name={name} standings={standings}>
              {({ zones }) => {
                const worn = zones.find((other) => other.zone === zone);
                return worn && <Worn zone={worn} />;
              }}
            </Row>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Row({
  name,
  standings,
  children,
}: {
  name: string;
  standings: (PiecePrediction | undefined)[];
  children: (standing: PiecePrediction) => ReactNode;
}) {
  return (
    <tr>
      <th scope="row" className="py-2 pl-5 align-top text-sm font-semibold max-sm:pl-2">
        {name}
      </th>
      {standings.map((standing, n) => (
        <td key={String(n)} className="p-0 pb-px align-top">
          {standing && children(standing)}
        </td>
      ))}
    </tr>
  );
}

/** What a part wears in one of the schemes. */
function Worn({ zone }: { zone: PiecePrediction['zones'][number] }) {
  return (
    <span className="flex min-h-14 items-stretch gap-3 bg-panel">
      <Colours zone={zone} className="w-16 shrink-0 max-sm:w-8" />
      <span className="self-center py-1 pr-2 text-sm leading-tight">{zone.refused ?? zone.wears}</span>
    </span>
  );
}
