import { Printer } from 'lucide-react';
import { useState } from 'react';
import { type GroundKind, Problem, type QuoteAsked, type ReadyFinish } from '../../api/client';
import { useInLights } from '../../light/light';
import { useTell } from '../../parts/Notice';
import { useAction } from '../../parts/useAction';
import { Failed, Waiting } from '../../parts/Waiting';
import { useBoardChoices, useReadyFinishes } from '../../state/boards';
import { usePieceChoices } from '../../state/piece';
import { useQuote, useQuoteCalls } from '../../state/quotes';
import { AskedFor } from './AskedFor';
import { Given } from './Given';
import { Offer } from './Offer';
import { Terms } from './Terms';

/** The commonest job, until something else is chosen. */
const FIRST: QuoteAsked = {
  kind: 'chest-of-drawers',
  width: 1000,
  height: 900,
  depth: 480,
  ground: 'red-stain',
  finishes: [{ template: 'aged' }],
};

/** The same in the first finish that the shelf can make, where it lacks something for that one. */
function first(ready: ReadyFinish[]): QuoteAsked {
  const lacks = ready.some(({ id, lacks }) => id === FIRST.finishes[0]?.template && lacks);
  const possible = lacks && ready.find(({ lacks }) => !lacks);
  return possible ? { ...FIRST, finishes: [{ template: possible.id }] } : FIRST;
}

/** A quote for a client in the shop, before anything is painted; and what became of earlier ones. */
export function Quotes() {
  useInLights(undefined);
  const choices = usePieceChoices();
  const boards = useBoardChoices();
  const [chosen, setAsked] = useState<QuoteAsked>();
  const ready =
    useReadyFinishes((chosen ?? FIRST).ground as GroundKind, chosen?.finishes[0]?.base ?? undefined) ?? [];
  const asked = chosen ?? first(ready);
  const quote = useQuote(asked);
  const calls = useQuoteCalls();
  const tell = useTell();
  const { attempt, busy } = useAction();
  if (!choices || !boards) return <Waiting rows={10} />;
  const save = async () => {
    const piece = await attempt('Couldn’t save the quote', () => calls.save(asked));
    if (piece) tell(`Saved: “${piece.name}” is the current piece`);
  };
  return (
    <div className="client-sheet grid gap-x-8 gap-y-6 px-4 pt-2 pb-8 md:px-5 lg:grid-cols-[20rem_minmax(0,1fr)] print:block print:px-0">
      <div className="grid content-start gap-5 print:hidden">
        <h1 className="text-3xl">Quote</h1>
        <AskedFor
          asked={asked}
          choices={choices}
          boards={boards}
          quote={quote}
          ready={ready}
          onChange={setAsked}
        />
        <Terms />
      </div>
      <div className="grid content-start gap-8">
        {quote.error instanceof Problem && !quote.last && (
          <p className="text-soft">The quote appears here once the finish can be made.</p>
        )}
        {quote.error && !(quote.error instanceof Problem) && !quote.last && (
          <Failed error={quote.error} retry={quote.retry} />
        )}
        {!quote.last && !quote.error && <Waiting rows={8} />}
        {quote.last && (
          <Offer
            asked={asked}
            kind={choices.kinds.find(({ id }) => id === asked.kind)?.name ?? 'Quote'}
            quote={quote.last}
          >
            <button
              type="button"
              className="press press-ink"
              disabled={busy || quote.error !== null}
              onClick={save}
            >
              Save the quote
            </button>
            <button type="button" className="press press-plain" onClick={() => window.print()}>
              <Printer size={18} aria-hidden /> Print
            </button>
          </Offer>
        )}
        <Given />
      </div>
    </div>
  );
}
