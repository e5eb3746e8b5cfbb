import { useState } from 'react';
import type { Colour, Source } from '../../../api/client';
import { PhotoPick } from '../../../common/PhotoPick';
import { Panel } from '../../../parts/Panel';
import { ByEye } from './ByEye';
import { Chart } from './Chart';

type Way = 'photo' | 'chart' | 'eye';

interface Props {
  /** The colour as it is known so far. */
  colour: Colour | null | undefined;
  onFound: (colour: Colour, source: Source) => void;
}

const WAYS = [
  { id: 'photo', name: 'In a photo', title: 'Colour from a photo of the lid or a chip' },
  { id: 'chart', name: 'On a chart', title: 'Colour from the chart' },
  { id: 'eye', name: 'By eye', title: 'Colour by eye' },
] as const;

/** Ways to the colour of a tin without a code: each says how far it can be trusted. */
export function FindColour({ colour, onFound }: Props) {
  const [way, setWay] = useState<Way>();
  const found = (next: Colour, source: Source) => {
    setWay(undefined);
    onFound(next, source);
  };
  return (
    <div className="grid gap-1">
      <p className="text-sm text-soft">No code? Find the colour</p>
      <div className="grid grid-cols-3 gap-2">
        {WAYS.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            className="press press-plain px-2 text-sm whitespace-nowrap"
            onClick={() => setWay(id)}
          >
            {name}
          </button>
        ))}
      </div>
      <Panel
        open={way !== undefined}
        onClose={() => setWay(undefined)}
        title={WAYS.find(({ id }) => id === way)?.title ?? ''}
        className="w-[min(46rem,94vw)]"
      >
        {way === 'photo' && (
          <PhotoPick
            name="new paint"
            wanted={['the colour']}
            take="Use this colour"
            onPicked={([lab]) => {
              if (lab) found({ lab }, 'photo');
              return lab !== undefined;
            }}
          />
        )}
        {way === 'chart' && <Chart onChosen={(hex) => found({ hex }, 'guess')} />}
        {way === 'eye' && <ByEye start={colour?.hex} onFound={(hex) => found({ hex }, 'guess')} />}
      </Panel>
    </div>
  );
}
