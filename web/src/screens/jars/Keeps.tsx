import { TriangleAlert } from 'lucide-react';
import type { JarView } from '../../api/client';
import { clockOf } from '../../parts/times';

/** Until when a jar is good, and what to do first where that is not so sure. */
export function Keeps({ jar }: { jar: JarView }) {
  const day = clockOf(undefined).longDay(jar.until);
  const doubtful = jar.state !== 'good';
  const spoiled = jar.state === 'spoiled' || jar.state === 'doubtful';
  return (
    <span className="block text-sm">
      {!spoiled && (
        <span className={doubtful ? 'font-semibold' : 'text-soft'}>
          {jar.state === 'past' ? `Was good until ${day}. ` : `Good until ${day}. `}
        </span>
      )}
      {jar.advice && (
        <span className={doubtful ? 'font-semibold' : 'text-soft'}>
          {doubtful && <TriangleAlert size={15} aria-hidden className="mr-1 mb-0.5 inline" />}
          {jar.advice}
        </span>
      )}
    </span>
  );
}
