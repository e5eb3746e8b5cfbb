import { type ReactNode, useRef, useState } from 'react';
import { StepCloser, seenFrom, WHOLE } from './StepCloser';
import { usePinch } from './usePinch';

/** A picture that is looked at from close: by two fingers, the wheel or buttons. */
export function Closely({ children, beside }: { children: ReactNode; beside?: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  const [at, stand] = useState(WHOLE);
  usePinch(frame, at, stand);
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div ref={frame} className="flex min-h-0 flex-1 touch-none overflow-hidden">
        <div className="flex min-h-0 min-w-0 flex-1 select-none" style={{ transform: seenFrom(WHOLE, at) }}>
          {children}
        </div>
      </div>
      <div className="flex flex-wrap items-center justify-center gap-1 p-2">
        <StepCloser at={at} onStand={stand} />
        {beside}
      </div>
    </div>
  );
}
