// Asks the program for something, once at a time, and reports it where that fails.

import { useRef, useState } from 'react';
import { Problem } from '../api/client';
import { useTell } from './Notice';

/** What is shown where no answer came. */
export const NO_ANSWER = 'Warm Blend isn’t responding';

/** Why something did not happen. */
export const why = (error: unknown) => (error instanceof Problem ? error.message : NO_ANSWER);

/** Statuses that concern no field: not allowed, the program failed, the disk is full. */
const OF_NO_FIELD = [401, 403, 500, 507];

/** Shows a problem where it belongs, if it is caught there, and else as a notice. */
function useTrouble() {
  const tell = useTell();
  return (failed: string, error: unknown, caught?: (problem: Problem) => void) => {
    const belongs = error instanceof Problem && !OF_NO_FIELD.includes(error.body.status);
    if (caught && belongs) caught(error);
    else tell(`${failed}: ${why(error)}`, 'stays');
  };
}

/** Carries out actions one after another: none is left out, however quickly they follow. A failure is caught or shown as a notice. */
export function useInTurn() {
  const trouble = useTrouble();
  const last = useRef(Promise.resolve());
  return (failed: string, action: () => Promise<void>, caught?: (problem: Problem) => void) => {
    last.current = last.current.then(action).catch((error: unknown) => trouble(failed, error, caught));
  };
}

/** Carries out an action and says why it failed; while it is under way a second tap does nothing. */
export function useAction() {
  const trouble = useTrouble();
  const under = useRef(false);
  const [busy, setBusy] = useState(false);
  const attempt = async <T>(
    /** `The board was not created`. */
    failed: string,
    action: () => Promise<T>,
    /** Takes a problem instead of the notice. */
    caught?: (problem: Problem) => void,
  ): Promise<T | undefined> => {
    if (under.current) return undefined;
    under.current = true;
    setBusy(true);
    try {
      return await action();
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
