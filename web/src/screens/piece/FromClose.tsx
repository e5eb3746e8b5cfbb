import { useRef, useState } from 'react';
import type { Piece } from '../../api/client';
import { BY_THE_WINDOW, Lamp } from '../../parts/Lamp';
import { closerAbout, StepCloser, WHOLE } from '../../parts/StepCloser';
import { usePinch } from '../../parts/usePinch';
import type { Turned } from '../../state/piece';
import { Elevation } from './Elevation';

interface Props {
  entry: Piece;
  scheme: number;
  view: string;
  turned?: Turned | undefined;
}

/** The piece on the whole screen, stepped up to by a touch on it, by two fingers, the wheel or buttons. */
export function FromClose({ entry, scheme, view, turned }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [at, stand] = useState(WHOLE);
  const [lit, setLit] = useState(BY_THE_WINDOW);
  const dragged = usePinch(frame, at, stand, () => frame.current?.querySelector('img'));
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div ref={frame} className="flex min-h-0 flex-1 touch-none flex-col">
        <Elevation
          entry={entry}
          scheme={scheme}
          view={view}
          turned={turned}
          large
          from={at}
          lit={lit}
          onPoint={(x, y) => dragged.current || stand(closerAbout(at, 2, x, y))}
        />
      </div>
      <div className="flex flex-wrap items-center justify-center gap-1 p-2">
        <StepCloser at={at} onStand={stand} />
        <Lamp lit={lit} onChange={setLit} />
      </div>
    </div>
  );
}
