import type { ZoneView } from '../../api/client';
import { Colours } from './Colours';

interface Props {
  zones: ZoneView[];
  chosen: string | undefined;
  onChoose: (zone: string) => void;
}

/** What is painted alike: each with its colour from across the room and from near. */
export function Zones({ zones, chosen, onChoose }: Props) {
  return (
    <ul aria-label="Zones of the piece" className="grid grid-cols-[minmax(0,1fr)] gap-px">
      {zones
        .filter(({ zone }) => zone !== 'unpainted')
        .map((one) => (
          <li key={one.zone}>
            <button
              type="button"
              aria-pressed={one.zone === chosen}
              title={`${one.name}: ${one.refused ?? one.wears}`}
              onClick={() => onChoose(one.zone)}
              className={`flex min-h-12 w-full cursor-pointer items-stretch text-left ${
                one.zone === chosen
                  ? 'bg-paper outline-2 -outline-offset-2 outline-ink'
                  : 'bg-panel hover:bg-paper'
              }`}
            >
              <Colours zone={one} className="w-16 shrink-0" />
              <span className="min-w-0 flex-1 self-center px-2 py-1 leading-tight">
                <span className="block truncate font-semibold">{one.name}</span>
                <span className="block truncate text-sm text-soft">{one.refused ?? one.wears}</span>
              </span>
              <span className="self-center pr-2 text-right text-sm leading-tight text-soft">
                <span className="block">{one.area}</span>
                <span className="block">{one.edge}</span>
              </span>
            </button>
          </li>
        ))}
    </ul>
  );
}
