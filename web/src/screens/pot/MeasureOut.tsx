import { useState } from 'react';
import { type MixEntry, type PredictedPart, Problem } from '../../api/client';
import { useUnits } from '../../light/light';
import { Field } from '../../parts/Field';
import { misread, plainNumber, typed } from '../../parts/numbers';
import { Picker } from '../../parts/Picker';
import { TroubleLine } from '../../parts/TroubleLine';
import type { useMeasured } from '../../state/bench';
import { useMoney } from '../../state/workshop';
import { Correct } from './Correct';
import { asked, type Batch, MEASURES, measureOf, ofSurface } from './measures';
import { SpoonsAtHand } from './SpoonsAtHand';

interface Props {
  entry: MixEntry;
  parts: PredictedPart[];
  batch: Batch;
  /** What comes of it, or why nothing does. */
  measured: ReturnType<typeof useMeasured>;
  onBatch: (batch: Batch) => void;
  /** Something was added: the pot, and how much of it there is now. */
  onAdded: (entry: MixEntry, batch: Batch) => void;
  /** Begins to pour it: how much, ml, and what it is measured with. */
  onPour: (ml: number, measure: string) => void;
}

const SURFACES = [
  { id: 'm2', name: 'm² to paint' },
  { id: 'ft2', name: 'ft² to paint' },
];

/** The batch in spoons and cups: how much of each, and what rounding to them does to the colour. */
export function MeasureOut({ entry, parts, batch, measured, onBatch, onAdded, onPour }: Props) {
  const [chosen, setChosen] = useState<string>();
  const money = useMoney();
  const metric = useUnits() === 'metric';
  const amount = typed(batch.amount);
  const [surface, plain] = [ofSurface(batch), measureOf(batch)];
  const answer = measured.data;
  const ways = answer?.ways ?? [];
  const way = ways.find((other) => other.measure === chosen) ?? ways[0];
  const wrong =
    misread(batch.amount) ??
    (asked(batch) === undefined
      ? 'enter an amount'
      : measured.error instanceof Problem
        ? measured.error.message
        : undefined);
  const costs = metric ? answer?.cost_per_m2 : answer?.cost_per_ft2;
  const name = (paint: string) => parts.find((part) => part.paint === paint)?.name ?? '';
  const unit = (id: string) =>
    id === 'g' ? 'by weight' : `in ${MEASURES.find((measure) => measure.id === id)?.name ?? id}`;
  return (
    <div className="grid items-start gap-x-8 gap-y-3 border-t border-line pt-3 xl:grid-cols-2">
      <section aria-label="Measure it out" className="grid gap-2">
        <div className="flex flex-wrap items-end gap-2">
          {(surface || plain) && (
            <div className="w-20">
              <Field
                label={surface ? 'Surface' : 'Batch'}
                inputMode="decimal"
                value={batch.amount}
                onChange={(text) => onBatch({ ...batch, amount: text })}
              />
            </div>
          )}
          <Picker
            label="Batch in"
            choices={[
              ...MEASURES,
              // One that was chosen stays.
              ...SURFACES.filter(({ id }) => (id === 'm2') === metric || id === batch.measure),
              ...parts.map((part) => ({ id: part.paint, name: `all the ${part.name} left` })),
            ]}
            value={batch.measure}
            onChange={(measure) => onBatch({ ...batch, measure })}
          />
          {surface && (
            <div className="w-16">
              <Field
                label="Coats"
                inputMode="decimal"
                value={batch.coats}
                onChange={(coats) => onBatch({ ...batch, coats })}
              />
            </div>
          )}
          {ways.length > 1 && way && (
            <Picker
              label="Measured in"
              choices={ways.map((other) => ({ id: other.measure, name: unit(other.measure) }))}
              value={way.measure}
              onChange={setChosen}
            />
          )}
          {!wrong && way && answer && (
            <button
              type="button"
              data-mark="start pouring"
              className="press press-ink"
              onClick={() => onPour(way.ml, way.measure)}
            >
              Start pouring
            </button>
          )}
        </div>
        {wrong && <TroubleLine className="text-sm">{wrong}</TroubleLine>}
        {!wrong && way && answer && (
          <>
            <ul aria-label="Amounts" className="flex flex-wrap gap-x-8 gap-y-1">
              {entry.components.map(({ paint }, i) => (
                <li key={paint} className="font-display text-xl font-semibold">
                  {way.amounts[i]} <span className="font-sans text-base font-normal">{name(paint)}</span>
                </li>
              ))}
            </ul>
            <p className="text-sm text-soft">
              <span className="inline-block first-letter:uppercase">{way.words}</span>. Enough for one layer
              on {metric ? `${plainNumber(way.covers_m2)} m²` : `${plainNumber(way.covers_ft2)} ft²`} (
              {answer.put_on.toLowerCase()}){way.cost != null && `; costs ${money(way.cost)}`}
              {costs != null && `, ${money(costs)} per ${metric ? 'm²' : 'ft²'}`}.
              {way.short.length > 0 && <b className="text-ink"> Not enough {way.short.join(' and ')}.</b>}{' '}
              <SpoonsAtHand />
            </p>
          </>
        )}
      </section>
      {!wrong && answer && entry.target && (
        <Correct
          entry={entry}
          amount={plain && amount != null ? amount : answer.ml}
          measure={plain ?? 'ml'}
          onAdded={(fix) => {
            const now = { ...batch, amount: plainNumber(fix.amount), measure: plain ?? 'ml' };
            onAdded({ ...entry, components: fix.components }, now);
          }}
        />
      )}
    </div>
  );
}
