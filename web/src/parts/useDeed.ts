// Something that is asked of the program: once at a time, and told where it did not happen.

import { useRef, useState } from 'react';
import { Problem } from '../api/client';
import { useTell } from './Notice';

/** What is said where no answer came. */
export const NO_ANSWER = 'Warm Blend isn’t responding';

/** Why something did not happen. */
export const why = (error: unknown) => (error instanceof Problem ? error.message : NO_ANSWER);

/** What failed is caught where it can be shown at its place, and told where it cannot. */
function useTrouble() {
  const tell = useTell();
  return (failed: string, error: unknown, caught?: (problem: Problem) => void) => {
    if (caught && error instanceof Problem) caught(error);
    else tell(`${failed}: ${why(error)}`, 'stays');
  };
}

/** Carries out deeds one after the other: none is left out, however quickly they follow. What fails is shown, or caught. */
export function useInTurn() {
  const trouble = useTrouble();
  const last = useRef(Promise.resolve());
  return (failed: string, deed: () => Promise<void>, caught?: (problem: Problem) => void) => {
    last.current = last.current.then(deed).catch((error: unknown) => trouble(failed, error, caught));
  };
}

/** Carries out a deed and tells why it failed; while it is under way a second tap does nothing. */
export function useDeed() {
  const trouble = useTrouble();
  const under = useRef(false);
  const [busy, setBusy] = useState(false);
  const attempt = async <T>(
    /** `The board was not created`. */
    failed: string,
    deed: () => Promise<T>,
    /** What is done with a problem instead of telling it. */
    caught?: (problem: Problem) => void,
  ): Promise<T | undefined> => {
    if (under.current) return undefined;
    under.current = true;
    setBusy(true);
    try {
      return await deed();
    } catch (error) {
      trouble(failed, error, caught);
      return undefined;
    } finally {
      under.current = false;
      setBusy(false);
    }
  };
  return { attempt, busy };
}
