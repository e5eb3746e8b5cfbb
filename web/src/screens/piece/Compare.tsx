import type { Piece } from '../../api/client';
import { FullScreen } from '../../parts/FullScreen';
import { Elevation } from './Elevation';
import { schemesOf } from './entry';

/** All schemes beside each other, touching. */
export function Compare({ entry }: { entry: Piece }) {
  const schemes = schemesOf(entry);
  if (schemes.length < 2) return null;
  return (
    <FullScreen
      title="The schemes side by side"
      trigger={
        <button type="button" className="press press-bare px-2 text-sm">
          Compare
        </button>
      }
    >
      <ul
        className={`grid min-h-0 flex-1 ${schemes.length > 1 ? 'grid-cols-2' : ''} content-start overflow-auto`}
      >
        {schemes.map((scheme, n) => (
          <li key={String(n)}>
            <Elevation entry={entry} scheme={n} view="front" />
            <p className="px-3 py-2 font-semibold">{scheme.name}</p>
          </li>
        ))}
      </ul>
    </FullScreen>
  );
}
