import { handy, POURED_IN } from '../measures';
import { AmountForm } from './AmountForm';

/** Amounts at a touch, for wet hands; or typed. */
export function Amounts({
  measure,
  left,
  onAdd,
}: {
  measure: string;
  /** What is still to go in of the paint at hand, and how many of the measure that is. */
  left?: { words: string; count: number } | undefined;
  onAdd: (measure: string, count?: number) => Promise<boolean>;
}) {
  const unit = POURED_IN.find(({ id }) => id === measure)?.name ?? measure;
  return (
    <div className="grid gap-2">
      {left && (
        <button
          type="button"
          className="press press-ink min-h-14 font-display text-xl"
          onClick={() => onAdd(measure, left.count)}
        >
          All {left.words}
        </button>
      )}
      <fieldset className="grid grid-cols-5 gap-2">
        <legend className="sr-only">Add, {unit}</legend>
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
      <AmountForm
        label={`Amount in ${unit}`}
        placeholder={`another amount, ${unit}`}
        unit={unit}
        action="Add"
        ink={!left}
        onGive={(amount) => onAdd(measure, amount)}
      />
    </div>
  );
}
