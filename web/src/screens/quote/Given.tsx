import { useState } from 'react';
import type { Problem, QuoteCompared } from '../../api/client';
import { Field } from '../../parts/Field';
import { plainNumber } from '../../parts/numbers';
import { clockOf } from '../../parts/times';
import { useAction } from '../../parts/useAction';
import { Failed } from '../../parts/Waiting';
import { useQuoteCalls, useQuotes } from '../../state/quotes';
import { moneyIn, useMoney } from '../../state/workshop';

/** Quotes that were given, what became of them, and what they say about the next one. */
export function Given() {
  const { data, error, refetch } = useQuotes();
  if (error && !data) return <Failed error={error} retry={() => void refetch()} />;
  if (!data || data.quotes.length === 0) return null;
  return (
    <section aria-label="Quotes given" className="grid gap-3 print:hidden">
      <h2 className="text-2xl">Quotes given</h2>
      {data.suggestion && <p className="max-w-prose">{data.suggestion}</p>}
      <ul className="grid gap-px">
        {data.quotes.map((quote) => (
          <One key={quote.piece} quote={quote} />
        ))}
      </ul>
    </section>
  );
}

function One({ quote }: { quote: QuoteCompared }) {
  const money = useMoney();
  // In the currency of that time.
  const sum = quote.currency ? moneyIn(quote.currency) : money;
  const clock = clockOf(undefined);
  const { hours, actual_hours } = quote;
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-4 gap-y-1 bg-panel px-3 py-2">
      <p>
        <b className="font-semibold">{quote.name}</b>
        {quote.client && `, ${quote.client}`}
      </p>
      <p className="text-right font-semibold">{sum(quote.sum)}</p>
      <p className="text-sm text-soft">
        Quoted {clock.short(quote.quoted_at)}: {plainNumber(Math.round(hours.least))} to{' '}
        {plainNumber(Math.round(hours.most))} h
        {actual_hours != null && `; so far ${plainNumber(Math.round(actual_hours * 2) / 2)} h`}
        {quote.accepted_by && `. ${quote.accepted_by} said yes`}
      </p>
      <p className="text-right text-sm first-letter:uppercase">{quote.words}</p>
      {!quote.accepted_by && <Yes quote={quote} />}
    </li>
  );
}

/** The client says yes, with the name as typed. */
function Yes({ quote }: { quote: QuoteCompared }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(quote.client ?? '');
  const [problem, setProblem] = useState<Problem>();
  const calls = useQuoteCalls();
  const { attempt, busy } = useAction();
  if (!open)
    return (
      <button
        type="button"
        className="press press-bare -ml-2 justify-self-start text-sm"
        onClick={() => setOpen(true)}
      >
        The client says yes
      </button>
    );
  return (
    <form
      className="col-span-2 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(
          'Couldn’t record the yes',
          () => calls.accept(quote.piece, quote.revision, name),
          setProblem,
        );
      }}
    >
      <Field label="Name of who says yes" value={name} onChange={setName} error={problem?.message} />
      <button type="submit" className="press press-ink" disabled={busy}>
        Record the yes
      </button>
      <button type="button" className="press press-bare" onClick={() => setOpen(false)}>
        Not yet
      </button>
    </form>
  );
}
