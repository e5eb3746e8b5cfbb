import { useState } from 'react';
import { Link } from 'react-router';
import type { Problem, Terms as TermsEntry } from '../../api/client';
import { NumberField } from '../../parts/NumberField';
import { useInTurn } from '../../parts/useAction';
import { NO_TERMS, useWorkshop, useWorkshopCalls } from '../../state/workshop';

const FIELDS = [
  { id: 'hour', label: 'An hour of work', unit: undefined },
  { id: 'overhead', label: 'Overhead', unit: '%' },
  { id: 'margin', label: 'Margin', unit: '% of the price' },
  { id: 'deposit', label: 'Deposit', unit: '% of the sum' },
  { id: 'delivery', label: 'Delivery', unit: undefined },
  { id: 'tax', label: 'Tax', unit: '%' },
  { id: 'minimum', label: 'Minimum price', unit: undefined },
  { id: 'markup', label: 'Mark-up on paint', unit: '%' },
  { id: 'rounding', label: 'Round up to', unit: undefined },
] as const;

/** Terms of every quote, set once. */
export function Terms() {
  const { data } = useWorkshop();
  const calls = useWorkshopCalls();
  const inTurn = useInTurn();
  const [problem, setProblem] = useState<Problem>();
  const terms = data?.entry.terms ?? NO_TERMS;
  const change = (part: Partial<TermsEntry>) =>
    inTurn(
      'Couldn’t save the terms',
      async () => {
        await calls.setTerms(part);
        setProblem(undefined);
      },
      setProblem,
    );
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-3 font-semibold">Your terms</summary>
      <div className="grid grid-cols-2 gap-3">
        {FIELDS.map(({ id, label, unit }) => (
          <NumberField
            key={id}
            label={label}
            unit={unit}
            value={terms[id] ?? undefined}
            error={problem?.at(`/terms/${id}`)}
            onChange={(value) => change({ [id]: value })}
            onEmpty={() => change({ [id]: null })}
          />
        ))}
      </div>
      <p className="pt-2 text-sm text-soft">
        Rates left blank are those of the last run sheet. A piece that is planned keeps its own, under{' '}
        <Link to="/run-sheet" className="text-ink underline underline-offset-3">
          Hours and rates
        </Link>
        .
      </p>
    </details>
  );
}
