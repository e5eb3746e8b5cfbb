import { Check, Scale } from 'lucide-react';
import type { ScaleNow } from '../../../api/client';

interface Props {
  scale: ScaleNow;
  /** What is being poured, and how much of it is wanted, g; 0 where nothing more is. */
  name: string;
  wanted: number;
  onTake: () => void;
  onTouch: () => void;
  onBegin: () => void;
  onSimulate: (action: string, grams?: number) => void;
}

/** The needle, large enough to be read with a tin in the hand; one touch records what went in. */
export function ByScale({ scale, name, wanted, onTake, onTouch, onBegin, onSimulate }: Props) {
  const grams = Math.abs(scale.grams) < 0.05 ? 0 : scale.grams;
  const resting = scale.pan === 'steady';
  const some = resting && grams >= 0.1;
  return (
    <div className="grid gap-3">
      <div className="grid gap-2 bg-paper p-3">
        <div className="flex items-baseline justify-between gap-3">
          <p className="min-w-0 truncate font-semibold">
            <bdi>{name}</bdi>
            {wanted >= 0.05 && (
              <span className="font-normal">
                : {wanted.toFixed(1)} g {wanted > grams ? 'to add' : 'needed'}
              </span>
            )}
          </p>
          <p role="status" className="shrink-0 text-sm text-soft">
            {{ steady: 'At rest', moving: 'Moving', lifted: 'Off the scale', silent: 'No signal' }[
              scale.pan
            ] ?? scale.pan}
          </p>
        </div>
        <p className="font-display text-5xl font-[650] leading-none tracking-tight">
          {/* It changes many times a second: it is read when it is asked for. */}
          <output aria-label="On the scale" aria-live="off">
            {grams.toFixed(1)} g
          </output>
        </p>
        {wanted >= 0.05 && (
          <span aria-hidden className="flex h-2 bg-line">
            <span
              className="bg-ink"
              style={{ width: `${Math.min(100, Math.max(0, (100 * grams) / wanted))}%` }}
            />
          </span>
        )}
      </div>
      {scale.trouble && <p className="text-sm font-medium first-letter:uppercase">{scale.trouble}.</p>}
      <div className="grid grid-cols-2 gap-2">
        <button
          type="button"
          className="press press-ink col-span-2 min-h-14 text-lg"
          disabled={!some}
          onClick={onTake}
        >
          <Check size={20} aria-hidden /> Record
        </button>
        <button type="button" className="press press-plain" disabled={!some} onClick={onTouch}>
          Record as a touch
        </button>
        <button
          type="button"
          className="press press-plain"
          disabled={scale.pan === 'silent' || scale.pan === 'moving'}
          onClick={onBegin}
        >
          <Scale size={18} aria-hidden /> Tare
        </button>
      </div>
      {scale.simulated && (
        <fieldset className="grid gap-2 border-l-4 border-edge pl-3">
          <legend className="sr-only">Simulated scale</legend>
          <p className="text-sm">
            <b>Simulated scale.</b> No scale is connected. Pour with these buttons instead.
          </p>
          <div className="flex flex-wrap gap-2">
            {wanted >= 0.1 && (
              <button
                type="button"
                className="press press-plain text-sm"
                onClick={() => onSimulate('pour', Math.max(0.1, wanted - Math.max(0, grams)))}
              >
                Pour what is wanted
              </button>
            )}
            {[50, 5, 0.5].map((some) => (
              <button
                key={some}
                type="button"
                className="press press-plain text-sm"
                onClick={() => onSimulate('pour', some)}
              >
                Pour {some} g
              </button>
            ))}
            <button
              type="button"
              className="press press-plain text-sm"
              onClick={() => onSimulate(scale.pan === 'lifted' ? 'put back' : 'lift')}
            >
              {scale.pan === 'lifted' ? 'Put the pot back' : 'Lift the pot'}
            </button>
            <button type="button" className="press press-plain text-sm" onClick={() => onSimulate('unplug')}>
              Pull the plug
            </button>
          </div>
        </fieldset>
      )}
    </div>
  );
}
