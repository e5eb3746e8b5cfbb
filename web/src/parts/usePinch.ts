import { useGesture } from '@use-gesture/react';
import { type RefObject, useRef } from 'react';
import { closerAbout, type Stance, stance } from './StepCloser';

/** How much closer a turn of the wheel brings. */
const WHEEL = 0.002;

/** Two fingers or the wheel bring what is in `frame` closer, one finger moves it. Says whether the last touch moved it. */
export function usePinch(frame: RefObject<HTMLElement | null>, at: Stance, onStand: (at: Stance) => void) {
  const dragged = useRef(false);
  // What was asked for last: several events come between two drawings.
  const now = useRef(at);
  now.current = at;
  const stand = (next: Stance) => {
    now.current = next;
    onStand(next);
  };
  /** A point of the page in shares of the frame. */
  const share = (x: number, y: number): [number, number] => {
    const box = frame.current?.getBoundingClientRect();
    return box ? [(x - box.left) / box.width, (y - box.top) / box.height] : [0.5, 0.5];
  };
  useGesture(
    {
      onDrag: ({ delta: [dx, dy], pinching, tap }) => {
        dragged.current = !tap;
        const box = frame.current;
        const { closer, x, y } = now.current;
        if (pinching || closer === 1 || !box) return;
        stand(stance(closer, x - dx / box.clientWidth / closer, y - dy / box.clientHeight / closer));
      },
      onPinch: ({ origin: [x, y], movement: [scale], memo = now.current as Stance }) => {
        stand(closerAbout(memo as Stance, scale, ...share(x, y)));
        return memo as Stance;
      },
      onWheel: ({ delta: [, dy], event }) => {
        // With this key it is a pinch already, as a touch pad tells it.
        if (event.ctrlKey) return;
        event.preventDefault();
        stand(closerAbout(now.current, Math.exp(-dy * WHEEL), ...share(event.clientX, event.clientY)));
      },
    },
    { target: frame, drag: { filterTaps: true }, eventOptions: { passive: false } },
  );
  return dragged;
}
