import type { ZoneView } from '../../api/client';
import { Colours } from './Colours';
import { paintedOf } from './entry';

interface Props {
  zones: ZoneView[];
  chosen: string | undefined;
  onChoose: (zone: string) => void;
}

/** The parts of the piece, side by side: each with its colour from across the room over those from near. */
export function Zones({ zones, chosen, onChoose }: Props) {
  return (
    <ul
      aria-label="Parts of the piece"
      className="grid shrink-0 grid-cols-[repeat(auto-fit,minmax(6.25rem,1fr))] gap-0.5"
    >
      {paintedOf(zones).map((one) => (
        <li key={one.zone} className="flex min-w-0">
          <button
            type="button"
            aria-pressed={one.zone === chosen}
            title={`${one.name}: ${one.refused ?? one.wears}`}
            onClick={() => onChoose(one.zone)}
            className={`flex min-w-0 flex-1 cursor-pointer flex-col overflow-hidden text-left ${
              one.zone === chosen
                ? 'bg-paper outline-3 -outline-offset-3 outline-ink'
                : 'bg-panel hover:bg-paper'
            }`}
          >
            <Colours zone={one} className="h-12 shrink-0" />
            <span className="block px-2 py-1.5 leading-tight">
              <span className="block truncate text-sm font-semibold">{one.name}</span>
              <span className="block truncate text-sm text-soft">{one.refused ?? one.wears}</span>
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
