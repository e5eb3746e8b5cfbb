import { Minus, Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { MixEntry, PredictedPart } from '../../api/client';
import { MOST_PARTS, setParts, takeOut } from './entry';

interface Props {
  entry: MixEntry;
  parts: PredictedPart[];
  onChange: (entry: MixEntry) => void;
}

/** Each paint of the pot with its parts. */
export function Parts({ entry, parts, onChange }: Props) {
  return (
    <ul aria-label="In the pot" className="grid gap-x-6 gap-y-1 xl:grid-cols-2">
      {entry.components.map(({ paint, parts: count }) => {
        const part = parts.find((predicted) => predicted.paint === paint);
        const name = part?.name ?? '';
        return (
          <li key={paint} className="flex min-h-12 items-center gap-2">
            <span
              aria-hidden
              className="size-11 shrink-0 bg-panel"
              style={part && { background: part.hex }}
            />
            <span className="min-w-0 flex-1 leading-tight">
              <bdi className="block truncate font-semibold">{name}</bdi>
              <span className="text-sm text-soft">
                {part && `${part.percent} %`}
                {part?.removed && ', no longer on the shelf'}
              </span>
            </span>
            <Stepper name={name} value={count} onChange={(next) => onChange(setParts(entry, paint, next))} />
            <button
              type="button"
              className="press press-bare px-0"
              aria-label={`Take ${name} out of the pot`}
              onClick={() => onChange(takeOut(entry, paint))}
            >
              <X size={18} aria-hidden />
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** Whole parts: tapped, typed, or by the arrow keys. */
function Stepper({
  name,
  value,
  onChange,
}: {
  name: string;
  value: number;
  onChange: (value: number) => void;
}) {
  const [typed, setTyped] = useState<string>();
  const keep = () => {
    const number = Number(typed);
    if (typed?.trim() && Number.isFinite(number)) onChange(number);
    setTyped(undefined);
  };
  return (
    <span className="flex items-center">
      <button
        type="button"
        tabIndex={-1}
        className="press press-plain rounded-r-none px-0"
        aria-label={`One part less of ${name}`}
        disabled={value <= 1}
        onClick={() => onChange(value - 1)}
      >
        <Minus size={18} aria-hidden />
      </button>
      <input
        role="spinbutton"
        aria-label={`Parts of ${name}`}
        aria-valuenow={value}
        aria-valuemin={1}
        aria-valuemax={MOST_PARTS}
        inputMode="numeric"
        value={typed ?? value}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onFocus={(event) => event.target.select()}
        onKeyDown={(event) => {
          const step = { ArrowUp: 1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[event.key];
          if (step) {
            event.preventDefault();
            setTyped(undefined);
            onChange(value + step);
          }
          if (event.key === 'Enter') keep();
        }}
        className="h-11 w-14 bg-paper text-center text-lg font-semibold shadow-[inset_0_1px_0_var(--color-edge),inset_0_-1px_0_var(--color-edge)]"
      />
      <button
        type="button"
        tabIndex={-1}
        className="press press-plain rounded-l-none px-0"
        aria-label={`One part more of ${name}`}
        disabled={value >= MOST_PARTS}
        onClick={() => onChange(value + 1)}
      >
        <Plus size={18} aria-hidden />
      </button>
    </span>
  );
}
