import type { ReadingMade } from '../api/client';
import { deltaE } from './numbers';

/** How a reading came out, in a sentence: the same where it is made and in the log. */
export function cameOut({ words, difference, within }: NonNullable<ReadingMade['came_out']>) {
  return `Came out ${words}: ΔE00 ${deltaE(difference)}, predicted ±${deltaE(within)}.`;
}
