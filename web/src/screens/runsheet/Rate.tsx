import { useState } from 'react';
import type { Problem, RunSheetEntry } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import { useInTurn } from '../../parts/useAction';
import { useRunSheetCalls } from '../../state/runSheet';

const RATES = {
  hour: { label: 'Hourly rate', unit: undefined },
  overhead: { label: 'Overhead', unit: '%' },
  margin: { label: 'Margin', unit: '% of the price' },
};

interface Props {
  piece: string;
  entry: RunSheetEntry;
  rate: keyof typeof RATES;
}

/** One of the workshop's rates. The price follows it. */
export function Rate({ piece, entry, rate }: Props) {
  const calls = useRunSheetCalls(piece);
  const inTurn = useInTurn();
  const [problem, setProblem] = useState<Problem>();
  const { label, unit } = RATES[rate];
  const change = (value: number | null) =>
    inTurn(
      'Couldn’t save the change',
      async () => {
        await calls.change(() => ({ [rate]: value }));
        setProblem(undefined);
      },
      setProblem,
    );
  return (
    <NumberField
      label={label}
      unit={unit}
      value={entry[rate] ?? undefined}
      error={problem && (problem.at(`/${rate}`) ?? problem.message)}
      onChange={change}
      onEmpty={() => change(null)}
    />
  );
}
