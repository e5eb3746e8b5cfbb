import type { PiecePrediction } from '../../api/client';
import { usePlace } from '../../state/unsaved';
import { clashOf } from './entry';

/** The zone whose finish is at hand, the same on every picture of the piece: until one is chosen, one that clashes. */
export function useChosenZone(piece: string, standing: PiecePrediction | undefined) {
  const [id, choose] = usePlace<string | undefined>(`piece ${piece} zone`, undefined);
  const zones = standing?.zones ?? [];
  const clash = clashOf(standing)?.one;
  const zone =
    zones.find((one) => one.zone === id) ??
    zones.find((one) => one.zone === clash) ??
    zones.find((one) => one.seen);
  return { zone, /** What a hand has chosen. */ id, choose };
}
