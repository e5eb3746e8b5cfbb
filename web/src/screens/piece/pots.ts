// What a colour of a blend or a pattern can be made of: the shelf, the mixes, and what other parts are painted with.

import type { Mix, MixPart, Paint, ZoneView } from '../../api/client';
import type { PaintChoice } from '../../parts/PaintPicker';

type Pot = MixPart[];

/** A pot with its name. */
export interface Choice extends PaintChoice {
  pot: Pot;
}

/** All there are; the colours of other parts first. */
export function potsOf(shelf: Paint[], mixes: Mix[], zones: ZoneView[] = []): Choice[] {
  const named = mixes.filter((mix) => mix.entry.name && mix.entry.components.length > 0);
  return [
    ...zones
      .filter((zone) => zone.main.length > 0)
      .map((zone) => ({ id: zone.zone, name: `Same as the ${zone.name.toLowerCase()}`, pot: zone.main })),
    ...named.map((mix) => ({
      id: mix.id,
      name: mix.entry.name ?? '',
      swatch: mix.prediction.swatch,
      pot: mix.entry.components,
    })),
    ...shelf.map((paint) => ({
      id: paint.id,
      name: paint.entry.name,
      swatch: paint.swatch,
      pot: [{ paint: paint.id, parts: 1 }],
    })),
  ];
}

/** True of pots with the same contents. */
export const samePot = (one: Pot, other: Pot) => JSON.stringify(one) === JSON.stringify(other);

const AS_IT_IS = 'as-it-is';

/** The choices of a picker whose pot may be one of its own, and which of them it is. */
export function pickedPot(pots: Choice[], pot: Pot): { id: string; choices: PaintChoice[] } {
  const id = pots.find((one) => samePot(one.pot, pot))?.id ?? AS_IT_IS;
  return { id, choices: id === AS_IT_IS ? [{ id, name: 'Custom mix' }, ...pots] : pots };
}
