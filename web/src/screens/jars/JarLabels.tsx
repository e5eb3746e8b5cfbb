import { ArrowLeft, Printer } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { Failed, Waiting } from '../../parts/Waiting';
import { useJarLabels } from '../../state/jars';
import { SHEETS, SQUARES, type Square, Sticker } from '../label/Sticker';
import { POURED_IN, useUsualMeasure } from '../pot/measures';

/** Labels of all jars, on sheets. */
export function JarLabels() {
  const [measure, setMeasure] = useState<string>(useUsualMeasure());
  const [sheet, setSheet] = useState<(typeof SHEETS)[number]['id']>('sheet');
  const [square, setSquare] = useState<Square>('recipe');
  const labels = useJarLabels(measure);
  if (labels.isError && !labels.data) return <Failed error={labels.error} retry={() => labels.refetch()} />;
  if (!labels.data) return <Waiting rows={4} />;
  const pages = labels.data.some(({ page }) => page);
  return (
    <div className="grid gap-5 p-4 md:p-6 print:p-0">
      <div className="flex flex-wrap items-center gap-3 print:hidden">
        <Link to="/jars" className="press press-bare px-2">
          <ArrowLeft size={18} aria-hidden /> Jars
        </Link>
        <h1 className="min-w-0 flex-1 truncate text-3xl">Labels for jars</h1>
        <button type="button" className="press press-ink" onClick={() => window.print()}>
          <Printer size={18} aria-hidden /> Print
        </button>
      </div>
      <div className="flex flex-wrap items-end gap-3 print:hidden">
        <Segments
          label="Sheet"
          choices={SHEETS}
          value={sheet}
          onChange={setSheet}
          className="flex flex-wrap"
        />
        <Picker label="Amounts in" choices={POURED_IN} value={measure} onChange={setMeasure} />
        {pages && <Picker label="QR code" choices={SQUARES} value={square} onChange={setSquare} />}
      </div>
      {labels.data.length === 0 && <p className="text-soft">No jars yet.</p>}
      <div className={`label-page-${sheet} flex flex-wrap content-start print:block`}>
        <div className={`label-${sheet}`}>
          {labels.data.map((label) => (
            <Sticker
              key={label.id}
              label={label}
              size={sheet}
              square={pages ? square : 'recipe'}
              hidden={false}
            />
          ))}
        </div>
      </div>
      <p className="max-w-prose text-sm text-soft print:hidden">
        {pages && square === 'page'
          ? 'The QR code opens the jar on a phone that is let in, while the network is on.'
          : 'The QR code holds the recipe as plain text, so any phone can read it.'}{' '}
        Print at 100 %, printer margins off.
      </p>
    </div>
  );
}
