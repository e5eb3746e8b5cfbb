import type { ReadingMade } from '../api/client';
import { oneDecimal } from './numbers';

/** How a reading came out, in a sentence: the same where it is made and in the log. */
export function cameOut({ words, difference, within, held }: NonNullable<ReadingMade['came_out']>) {
  const out = `The reading is ${words}: ΔE00 ${oneDecimal(difference)}`;
  return held
    ? `${out}, within the ±${oneDecimal(within)} that was given.`
    : `${out}, where only ±${oneDecimal(within)} was given.`;
}
