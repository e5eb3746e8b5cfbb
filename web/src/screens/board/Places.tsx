import type { Board, StripPrediction } from '../../api/client';
import { Term } from '../../common/Term';
import { Doubt } from '../../parts/Doubt';
import { labWords } from '../../parts/numbers';
import { PLACE_NAMES } from '../../parts/places';
import { Cutaway } from './Cutaway';
import type { Place } from './entry';
import { Why } from './Why';

/** `slate blue 64 %, duck egg 31 %`: the colours that are distinguished from near, by the paint on top. */
function closeUp(colours: StripPrediction['places'][number]['colours']) {
  const shares = new Map<string, number>();
  for (const { of, percent } of colours) shares.set(of ?? '', (shares.get(of ?? '') ?? 0) + percent);
  return [...shares]
    .slice(0, 4)
    .map(([name, percent]) => `${name} ${String(percent)}\u00a0%`)
    .join(', ');
}

/** What is seen at each kind of place: from across the room, from near, and the films in section. */
export function Places({ strip, entry }: { strip: StripPrediction; entry: Board }) {
  return (
    <figure className="grid gap-1">
      <ul aria-label="Places" className="grid gap-x-px gap-y-3 sm:grid-cols-3">
        {strip.places.map(({ place, seen, within, colours }) => (
          <li key={place} className="grid content-start gap-1">
            <span aria-hidden className="flex h-8">
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
                {place === 'recess' ? <Term id="recess">{PLACE_NAMES[place]}</Term> : PLACE_NAMES[place]}
              </b>
              <span>
                {labWords(seen.lab)}, <Doubt value={within} />
              </span>
            </p>
            <p className="text-sm leading-tight">
              <span className="block text-soft">{colours.length > 1 ? closeUp(colours) : 'One colour'}</span>
            </p>
          </li>
        ))}
      </ul>
      <figcaption className="flex items-center justify-between gap-3 text-xs text-soft">
        Each from across the room and close up, with its films in section below (not to scale).
        <Why entry={entry} letter={strip.letter} />
      </figcaption>
    </figure>
  );
}
