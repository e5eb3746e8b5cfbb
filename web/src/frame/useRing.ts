import { useEffect } from 'react';
import { useTell } from '../parts/Notice';
import { useRunSheet } from '../state/runSheet';
import { usePiece } from '../state/workspace';

/** The longest a browser's timer can wait, ms: almost 25 days. */
const LONGEST = 2 ** 31 - 1;

/** A short tone, where the browser lets the page make one. */
function ring() {
  const sound = new AudioContext();
  const tone = sound.createOscillator();
  tone.frequency.value = 660;
  tone.connect(sound.destination);
  tone.start();
  tone.stop(sound.currentTime + 0.6);
  // Where it may make no sound, the tone never ends.
  setTimeout(() => void sound.close(), 1500);
}

/**
 * Tells on every screen when what was put on the piece at hand last is dry and the next step can begin. The time is the program’s, so a
 * reload changes nothing.
 */
export function useRing() {
  const tell = useTell();
  const piece = usePiece().data;
  const sheet = useRunSheet(piece?.entry.form ? piece.id : undefined).data;
  const next = sheet && sheet.done.length > 0 ? sheet.steps.find((step) => step.ready) : undefined;
  const [begins, name] = [next?.begins, next?.name];
  useEffect(() => {
    if (!begins || !name) return;
    const left = new Date(begins).getTime() - Date.now();
    if (left <= 1000 || left > LONGEST) return;
    const timer = setTimeout(() => {
      tell(`Dry. Next: ${name}`, 'stays');
      ring();
    }, left);
    return () => clearTimeout(timer);
  }, [begins, name, tell]);
}
