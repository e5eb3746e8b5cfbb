import type { StripPrediction } from '../../api/client';
import { Doubt } from '../../parts/Doubt';
import { labWords } from '../../parts/numbers';
import { PLACE_NAMES } from '../../parts/places';
import { Cutaway } from './Cutaway';
import type { Place } from './entry';

/** What is seen at each kind of place: from across the room, from near, and the films in section. */
export function Places({ strip }: { strip: StripPrediction }) {
  return (
    <ul aria-label="Places" className="grid gap-x-px gap-y-3 sm:grid-cols-3">
      {strip.places.map(({ place, seen, within, colours }) => (
        <li key={place} className="grid content-start gap-1">
          <span aria-hidden className="flex h-12">
            <span className="flex-2" style={{ background: seen.hex }} />
            <span className="flex flex-3">
              {colours.map((colour) => (
                <span key={colour.hex} style={{ background: colour.hex, flexGrow: colour.share }} />
              ))}
            </span>
          </span>
          <Cutaway strip={strip} place={place as Place} />
          <p className="flex flex-wrap items-baseline gap-x-2 text-sm leading-tight">
            <b className="inline-block text-base font-semibold first-letter:uppercase">
              {PLACE_NAMES[place]}
            </b>
            <span>
              {labWords(seen.lab)}, <Doubt value={within} />
            </span>
          </p>
          <p className="text-sm leading-tight">
            <span className="block text-soft">
              {colours.length > 1
                ? `Close up: ${colours
                    .slice(0, 4)
                    .map((colour) => `${colour.percent} %`)
                    .join(', ')}`
                : 'One colour'}
            </span>
          </p>
        </li>
      ))}
    </ul>
  );
}
