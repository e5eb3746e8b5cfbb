import { useState } from 'react';
import { PaintPicker } from '../../../parts/PaintPicker';
import { Segments } from '../../../parts/Segments';
import { useNeighbours } from '../../../state/guide';
import { usePaints } from '../../../state/workspace';

const STEPS = [
  { id: 'coarse', name: 'Big steps' },
  { id: 'fine', name: 'Small steps' },
] as const;

/** Where the neighbours lie around the colour itself, row by row. */
const ROWS = [
  ['stronger', 'lighter', 'yellower'],
  ['greener', '', 'redder'],
  ['greyer', 'darker', 'bluer'],
];

/** Greyish and of middle lightness: nothing is far from it. */
const MIDDLE = '#9a948a';

/** A colour approached step by step, beside a paint whose colour is known: hold the two real ones the same way. */
export function ByEye({
  start,
  onFound,
}: {
  start: string | null | undefined;
  onFound: (hex: string) => void;
}) {
  const [hex, setHex] = useState(start && /^#[\da-f]{6}$/i.test(start) ? start : MIDDLE);
  const [step, setStep] = useState<'coarse' | 'fine'>('coarse');
  const [beside, setBeside] = useState('');
  const around = useNeighbours(hex, step === 'fine') ?? [];
  const paints = (usePaints().data ?? []).filter((paint) => !paint.medium);
  const neighbour = paints.find(({ id }) => id === beside);
  return (
    <div className="grid gap-3">
      <p className="text-sm text-soft">
        Hold the dry paint beside the screen in daylight. Tap whichever square is nearer to it, until the
        middle one is. It helps to lay it against a paint you know, here and in the hand.
      </p>
      <div className="flex flex-wrap items-center justify-between gap-3">
        <Segments label="Size of the steps" choices={STEPS} value={step} onChange={setStep} />
        {paints.length > 0 && (
          <PaintPicker
            label="A paint you know"
            placeholder="Beside a paint you know"
            choices={paints.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch }))}
            value={beside}
            onChange={setBeside}
          />
        )}
      </div>
      <div className="flex">
        {neighbour && (
          <div
            role="img"
            aria-label={`${neighbour.entry.name}, ${neighbour.swatch.face.hex}`}
            className="w-1/4"
            style={{ background: neighbour.swatch.face.hex }}
          />
        )}
        <div className="grid flex-1 grid-cols-3">
          {ROWS.flat().map((words) => {
            const at = around.find((one) => one.words === words)?.hex;
            if (words === '')
              return (
                <div
                  key="itself"
                  role="img"
                  aria-label={`The colour so far, ${hex}`}
                  className="h-24"
                  style={{ background: hex }}
                />
              );
            return (
              <button
                key={words}
                type="button"
                disabled={!at}
                onClick={() => at && setHex(at)}
                className="flex h-24 cursor-pointer items-end p-1 focus-visible:relative focus-visible:z-10 disabled:cursor-default"
                style={{ background: at ?? hex }}
              >
                <span className="bg-paper px-1 text-sm text-ink">{at ? words : `not ${words}`}</span>
              </button>
            );
          })}
        </div>
      </div>
      <button type="button" className="press press-ink justify-self-end" onClick={() => onFound(hex)}>
        Use this colour
      </button>
    </div>
  );
}
