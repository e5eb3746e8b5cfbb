import { ArrowLeft, Download, PaintbrushVertical, Printer } from 'lucide-react';
import { Link } from 'react-router';
import { clockOf } from '../../parts/times';
import { Failed, Waiting } from '../../parts/Waiting';
import { useRecord } from '../../state/runSheet';
import { usePiece } from '../../state/workspace';
import { NoKind } from './NoKind';

const clock = clockOf(undefined);

/** What is on the piece, for the client and for whoever mends it. */
export function Record() {
  const piece = usePiece().data;
  const id = piece?.id ?? '';
  const formed = Boolean(piece?.entry.form);
  const record = useRecord(formed ? id : undefined);
  if (piece && !formed)
    return (
      <NoKind
        title="Nothing on record yet"
        words="The record is made from the run sheet. First choose what the piece is."
      />
    );
  if (record.isError) return <Failed error={record.error} retry={() => record.refetch()} />;
  if (!record.data) return <Waiting rows={10} />;
  const { zones, touched_up: touchedUp, care, client, finished, piece: name, scheme } = record.data;
  // Parts that wear the same are shown together.
  const painted: { parts: string[]; layers: (typeof zones)[number]['layers'] }[] = [];
  for (const { zone, layers } of zones.filter((one) => one.layers.length > 0)) {
    const same = painted.find((one) => JSON.stringify(one.layers) === JSON.stringify(layers));
    if (same) same.parts.push(zone);
    else painted.push({ parts: [zone], layers });
  }
  return (
    <article className="mx-auto grid max-w-4xl gap-4 px-4 pt-2 pb-8 print:max-w-none print:gap-2 print:px-0 print:text-[9pt]">
      <div className="flex flex-wrap items-center gap-2 print:hidden">
        <Link to="/piece/sheet" className="press press-bare text-sm">
          <ArrowLeft size={18} aria-hidden /> Client sheet
        </Link>
        <div className="flex-1" />
        <Link to="/piece/touch-up" className="press press-bare text-sm">
          <PaintbrushVertical size={18} aria-hidden /> Touch up
        </Link>
        {['record.csv', 'record.json'].map((file) => (
          <a
            key={file}
            className="press press-bare text-sm"
            href={`/api/pieces/${id}/run-sheet/${file}`}
            download={file}
          >
            <Download size={18} aria-hidden /> {file.endsWith('csv') ? 'Download CSV' : 'Download JSON'}
          </a>
        ))}
        <button type="button" className="press press-ink" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </button>
      </div>
      <header>
        <h1 className="text-3xl print:text-xl">What is on {name}</h1>
        <p>
          {[client && `for ${client}`, scheme, !finished && 'not finished yet'].filter(Boolean).join(' · ')}
        </p>
      </header>
      {painted.length === 0 && <p className="text-soft">Nothing was ticked off on the run sheet yet.</p>}
      <div className="grid gap-x-8 gap-y-3 sm:grid-cols-2 print:grid-cols-2 print:gap-y-2">
        {painted.map(({ parts, layers }) => (
          <section key={parts[0]} aria-label={parts.join(', ')} className="break-inside-avoid">
            <h2 className="text-xl print:text-base">{parts.join(', ')}</h2>
            <ol className="list-decimal pl-6">
              {layers.map(({ how, pot, at, mends }) => (
                <li key={`${how} ${at}`}>
                  {how}
                  {pot && `, ${pot}`}
                  <span className="text-sm text-soft print:text-[8pt]">
                    {' '}
                    {clock.short(at)}
                    {mends && `; ${mends} repairs a palm-sized spot`}
                  </span>
                </li>
              ))}
            </ol>
          </section>
        ))}
      </div>
      {painted.length > 0 && (
        <p>
          To repair a spot: dab on the same layers in this order with a small, nearly dry brush. Let each dry,
          and feather the edges with almost no pressure.
        </p>
      )}
      {touchedUp.length > 0 && (
        <section aria-label="Touched up since">
          <h2 className="text-xl print:text-base">Touched up since</h2>
          <ul className="list-disc pl-6">
            {touchedUp.map(({ words, note, at }) => (
              <li key={at}>
                {words}
                {note && <>: “{note}”</>}
                <span className="text-sm text-soft print:text-[8pt]"> {clock.short(at)}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {care.length > 0 && (
        <section aria-label="How to look after it">
          <h2 className="text-xl print:text-base">How to look after it</h2>
          <ul className="list-disc pl-6">
            {care.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </section>
      )}
    </article>
  );
}
