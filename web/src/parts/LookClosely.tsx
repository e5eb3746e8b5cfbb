import { type MouseEvent, type ReactNode, useRef, useState } from 'react';
import { closerAbout, MOST, noCloser, type Stance, StepCloser, seenFrom, WHOLE } from './StepCloser';
import { usePinch } from './usePinch';

interface Props {
  /** Width of the picture by its height. */
  ratio: number;
  /** How many times closer there is still something to see. */
  most?: number;
  /** Draws the picture as it is seen from there. */
  children: (at: Stance) => ReactNode;
  beside?: ReactNode;
}

/** A picture as large as there is room, all of it first; a touch on it, two fingers, the wheel and buttons bring it closer. */
export function LookClosely({ ratio, most = MOST, children, beside }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(WHOLE);
  const stand = (next: Stance) => setAt(noCloser(next, most));
  const dragged = usePinch(frame, at, stand);
  const touch = ({ currentTarget, clientX, clientY }: MouseEvent) => {
    if (dragged.current) return;
    const { left, top, width, height } = currentTarget.getBoundingClientRect();
    stand(closerAbout(at, 2, (clientX - left) / width, (clientY - top) / height));
  };
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="grid min-h-0 flex-1 place-items-center [container-type:size]">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the buttons below do the same by keys */}
        {/* biome-ignore lint/a11y/useKeyWithClickEvents: the buttons below do the same by keys */}
        <div
          ref={frame}
          onClick={touch}
          className="relative cursor-zoom-in touch-none overflow-hidden select-none"
          style={{ width: `min(100cqw, ${String(ratio)} * 100cqh)`, aspectRatio: String(ratio) }}
        >
          {children(at)}
        </div>
      </div>
      <div className="flex flex-wrap items-center justify-center gap-1 p-2">
        <StepCloser at={at} onStand={stand} most={most} />
        {beside}
      </div>
    </div>
  );
}

interface ScaledProps {
  /** From where it is looked at, if not from there. */
  at?: Stance | undefined;
  /** From where the picture that is there was drawn. */
  drawn: Stance;
  children: ReactNode;
}

/** A picture in its place until the one that is asked for is there. */
export function InPlace({ drawn, at = drawn, children }: ScaledProps) {
  const isOld = drawn.closer !== at.closer || drawn.x !== at.x || drawn.y !== at.y;
  return (
    <>
      <div className="h-full w-full" style={isOld ? { transform: seenFrom(drawn, at) } : undefined}>
        {children}
      </div>
      {isOld && (
        <p role="status" className="absolute bottom-2 left-2 bg-panel px-2 py-1 text-sm">
          Drawing
        </p>
      )}
    </>
  );
}
