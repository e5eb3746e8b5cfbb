import type { ReactNode } from 'react';
import type { QuoteAsked, QuoteView } from '../../api/client';
import { TinCosts } from '../../common/TinCosts';
import { NotDrawn } from '../../parts/NotDrawn';
import { clockOf } from '../../parts/times';
import { useQuotePicture } from '../../state/quotes';
import { useMoney, useMoneyBetween } from '../../state/workshop';

interface Props {
  asked: QuoteAsked;
  /** `Chest of drawers` */
  kind: string;
  quote: QuoteView;
  children: ReactNode;
}

/** The quote: what it costs, when it is ready, how it will look, and what makes the range wide. */
export function Offer({ asked, kind, quote, children }: Props) {
  const money = useMoney();
  const between = useMoneyBetween();
  const clock = clockOf('UTC');
  const noon = (date: string) => `${date}T12:00:00Z`;
  const ready = clock.between(noon(quote.ready_from), noon(quote.ready_by));
  // Alone, the price is the sum.
  const extras = quote.delivery > 0 || quote.tax > 0;
  const rows = [
    ['Price', extras ? quote.price : 0],
    ['Delivery', quote.delivery],
    ['Tax', quote.tax],
    ['Deposit', quote.deposit],
  ] as const;
  return (
    <section
      aria-label="The quote"
      className="grid gap-x-8 gap-y-5 xl:grid-cols-[minmax(0,1fr)_20rem] print:grid"
    >
      <header className="hidden print:block">
        <h1 className="text-3xl">{asked.name || kind}</h1>
        <p>
          {asked.client && `for ${asked.client}, `}quoted {clockOf(undefined).short(new Date().toISOString())}
        </p>
      </header>
      <div className="grid content-start gap-3 xl:col-start-2">
        <div>
          <p className="font-display text-5xl font-semibold" role="status">
            {quote.sum.likely > 0 ? money(quote.sum.likely) : 'No price yet'}
          </p>
          {Math.round(quote.sum.least) < Math.round(quote.sum.most) && (
            <p className="text-soft print:hidden">likely {between(quote.sum.least, quote.sum.most)}</p>
          )}
        </div>
        <dl className="grid gap-px">
          <Line name="Ready">{ready}</Line>
          <Line name="Work" className="print:hidden">
            {quote.hours_words}
          </Line>
          {rows
            .filter(([, value]) => value > 0)
            .map(([name, value]) => (
              <Line key={name} name={name}>
                {money(value)}
              </Line>
            ))}
        </dl>
        {quote.is_minimum && (
          <p className="text-sm">The work would come to less: this is your minimum price.</p>
        )}
        <div className="flex flex-wrap gap-2 print:hidden">{children}</div>
      </div>
      <div className="grid content-start gap-3 xl:col-start-1 xl:row-start-1 xl:row-span-2 print:row-start-2">
        <Drawn asked={asked} />
        <p className="text-lg">{quote.finishes.join(', ')}</p>
        <p className="hidden text-sm text-soft print:block">
          A prediction from the paints on hand. The sample board decides.
        </p>
      </div>
      <div className="grid content-start gap-4 text-sm xl:col-start-2 print:hidden">
        <section aria-label="What makes the range wide" className="grid gap-1">
          <h2 className="text-lg font-semibold">What makes the range wide</h2>
          {quote.wide.map((words) => (
            <p key={words}>{words}</p>
          ))}
          {quote.notes.map((words) => (
            <p key={words} className="text-soft">
              {words}
            </p>
          ))}
        </section>
        <details>
          <summary className="min-h-11 cursor-pointer py-3 font-semibold">
            Paint and products, {money(quote.materials)}
          </summary>
          <TinCosts tins={quote.tins} />
        </details>
      </div>
    </section>
  );
}

function Line({ name, className = '', children }: { name: string; className?: string; children: ReactNode }) {
  return (
    <div className={`flex justify-between gap-3 bg-panel px-3 py-2 ${className}`}>
      <dt>{name}</dt>
      <dd className="text-right font-semibold">{children}</dd>
    </div>
  );
}

function Drawn({ asked }: { asked: QuoteAsked }) {
  const { drawing, error, retry } = useQuotePicture(asked);
  if (error && !drawing) return <NotDrawn error={error} retry={retry} className="aspect-4/3" />;
  if (!drawing)
    return (
      <div role="status" className="aspect-4/3 w-full animate-pulse bg-panel">
        <span className="sr-only">Drawing</span>
      </div>
    );
  return (
    <img
      {...drawing}
      width={960}
      height={720}
      className="block h-auto w-full"
      alt="The piece as it would look"
    />
  );
}
