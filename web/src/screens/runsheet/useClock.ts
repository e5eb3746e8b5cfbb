import { useEffect, useState } from 'react';
import type { StepView } from '../../api/client';

/** Minutes that the clock of a step shows, second by second while it runs; none where it was not started. */
export function useClock(clock: StepView['clock']): number | undefined {
  const [read, setRead] = useState({ clock, at: Date.now() });
  const [now, setNow] = useState(Date.now);
  // What the server said counts from when it said it.
  if (read.clock !== clock) {
    const at = Date.now();
    setRead({ clock, at });
    setNow(at);
  }
  const runs = clock?.runs ?? false;
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [runs]);
  if (!clock) return undefined;
  return clock.minutes + (runs ? Math.max(0, now - read.at) / 60_000 : 0);
}

/** `0:25`, `1:02:25` */
export function onClock(minutes: number) {
  const seconds = Math.floor(60 * minutes);
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const two = (n: number) => String(n).padStart(2, '0');
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}
