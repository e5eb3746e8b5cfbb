import { useState } from 'react';
import { typed } from '../../../parts/numbers';
import { handy, POURED_IN } from '../measures';

/** Amounts at a touch, for wet hands; or typed. */
export function Amounts({
  measure,
  onAdd,
}: {
  measure: string;
  onAdd: (measure: string, count?: number) => Promise<boolean>;
}) {
  const [text, setText] = useState('');
  const unit = POURED_IN.find(({ id }) => id === measure)?.name ?? measure;
  const number = typed(text);
  return (
    <div className="grid gap-2">
      <fieldset className="grid grid-cols-5 gap-2">
        <legend className="sr-only">Went in, {unit}</legend>
        {handy(measure).map(({ count, name }) => (
          <button
            key={name}
            type="button"
            className="press press-plain min-h-14 flex-col gap-0 font-display text-xl leading-tight"
            onClick={() => onAdd(measure, count)}
          >
            {name}
            <span className="font-sans text-xs font-medium">{unit}</span>
          </button>
        ))}
        <button
          type="button"
          className="press press-plain min-h-14 px-1 text-sm leading-tight"
          onClick={() => onAdd('touch')}
        >
          A touch
        </button>
      </fieldset>
      <form
        className="flex gap-2"
        onSubmit={async (event) => {
          event.preventDefault();
          if (number != null && (await onAdd(measure, number))) setText('');
        }}
      >
        <input
          aria-label={`Amount in ${unit}`}
          inputMode="decimal"
          placeholder={`another amount, ${unit}`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="field min-w-0 flex-1"
          autoComplete="off"
        />
        <button type="submit" className="press press-ink" disabled={number == null}>
          Went in
        </button>
      </form>
    </div>
  );
}
