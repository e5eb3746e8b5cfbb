import { useState } from 'react';
import type { MixEntry, PredictedPart } from '../../api/client';
import { Field } from '../../parts/Field';
import { oneDecimal, plainNumber, typed } from '../../parts/numbers';
import { Picker } from '../../parts/Picker';
import { useMeasured } from '../../state/bench';
import { Correct } from './Correct';

const MEASURES = [
  { id: 'ml', name: 'ml' },
  { id: 'litre', name: 'litres' },
  { id: 'tsp', name: 'tsp' },
  { id: 'tbsp', name: 'tbsp' },
  { id: 'fl-oz', name: 'fl oz' },
  { id: 'cup', name: 'cups' },
  { id: 'pint', name: 'pints' },
  { id: 'quart', name: 'quarts' },
  { id: 'gallon', name: 'gallons' },
] as const;

interface Props {
  entry: MixEntry;
  parts: PredictedPart[];
  onChange: (entry: MixEntry) => void;
}

/** The batch in spoons and cups: how much of each, and what rounding to them does to the colour. */
export function MeasureOut({ entry, parts, onChange }: Props) {
  const [amount, setAmount] = useState('1');
  const [measure, setMeasure] = useState<string>('cup');
  const [chosen, setChosen] = useState<string>();
  const number = typed(amount);
  const batch = useMeasured(entry.components, number ?? undefined, measure);
  const ways = batch.data?.ways ?? [];
  const way = ways.find((other) => other.measure === chosen) ?? ways[0];
  const wrong =
    number == null
      ? 'how much is to be mixed?'
      : batch.error instanceof Error
        ? batch.error.message
        : undefined;
  const name = (paint: string) => parts.find((part) => part.paint === paint)?.name ?? '';
  return (
    <div className="grid items-start gap-x-8 gap-y-3 border-t border-line pt-3 xl:grid-cols-2">
      <section aria-label="Measure it out" className="grid gap-2">
        <div className="flex flex-wrap items-end gap-2">
          <div className="w-24">
            <Field label="Batch" inputMode="decimal" value={amount} onChange={setAmount} />
          </div>
          <Picker label="Batch in" choices={MEASURES} value={measure} onChange={setMeasure} />
          {ways.length > 1 && way && (
            <Picker
              label="Measured in"
              choices={ways.map((other) => ({
                id: other.measure,
                name: `in ${MEASURES.find(({ id }) => id === other.measure)?.name ?? other.measure}`,
              }))}
              value={way.measure}
              onChange={setChosen}
            />
          )}
          {!wrong && batch.data && (
            <p className="pb-2 text-sm text-soft">
              {way?.words}
              {batch.data.cost != null && `, costs ${oneDecimal(batch.data.cost)}`}
              {batch.data.short.length > 0 && (
                <b className="text-ink">. Not enough {batch.data.short.join(' and ')}</b>
              )}
            </p>
          )}
        </div>
        {wrong && (
          <p role="alert" className="text-sm font-medium text-alarm first-letter:uppercase">
            {wrong}
          </p>
        )}
        {!wrong && way && (
          <ul aria-label="Amounts" className="flex flex-wrap gap-x-8 gap-y-1">
            {entry.components.map(({ paint }, i) => (
              <li key={paint} className="font-display text-xl font-semibold">
                {way.amounts[i]} <span className="font-sans text-base font-normal">{name(paint)}</span>
              </li>
            ))}
          </ul>
        )}
        {!wrong && batch.data && ways.length === 0 && (
          <p className="text-sm font-semibold">
            Too little to measure a part of each: mix more, or in simpler parts.
          </p>
        )}
      </section>
      {!wrong && number != null && entry.target && (
        <Correct
          entry={entry}
          amount={number}
          measure={measure}
          onAdded={(next, amount) => {
            onChange(next);
            setAmount(plainNumber(amount));
          }}
        />
      )}
    </div>
  );
}
