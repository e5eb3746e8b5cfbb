import { useEffect } from 'react';
import type { RunSheetView } from '../../api/client';
import { useTell } from '../../parts/Notice';

/** Longest that a browser's timer is set for, ms. */
const LONGEST = 12 * 3_600_000;

/** A short tone, where the browser lets the page make one. */
function ring() {
  const sound = new AudioContext();
  const tone = sound.createOscillator();
  tone.frequency.value = 660;
  tone.connect(sound.destination);
  tone.start();
  tone.stop(sound.currentTime + 0.6);
  tone.onended = () => void sound.close();
}

/** Tells when what was put on last is dry and the next step can begin. The time is the server's, so a reload changes nothing. */
export function useRing(sheet: RunSheetView) {
  const tell = useTell();
  const next = sheet.done.length > 0 ? sheet.steps.find((step) => step.ready) : undefined;
  const [begins, name] = [next?.begins, next?.name];
  useEffect(() => {
    if (!begins || !name) return;
    const left = new Date(begins).getTime() - Date.now();
    if (left <= 1000 || left > LONGEST) return;
    const timer = setTimeout(() => {
      tell(`Dry: “${name}” can begin`);
      ring();
    }, left);
    return () => clearTimeout(timer);
  }, [begins, name, tell]);
}
