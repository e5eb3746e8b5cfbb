import { ArrowLeft, Printer } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { Field } from '../../parts/Field';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { Failed, Waiting } from '../../parts/Waiting';
import { useLabel, usePourCalls } from '../../state/pours';
import { POURED_IN, useUsualMeasure } from '../pot/measures';
import { ON_A_SHEET, SHEETS, type Size, SQUARES, type Square, Sticker } from './Sticker';

/** Common sizes, in mm; each has its page in the style sheet. */
const SIZES = [
  { id: '62x29', name: '62 × 29 mm' },
  { id: '89x36', name: '89 × 36 mm' },
  { id: '100x50', name: '100 × 50 mm' },
  ...SHEETS,
] as const;

/** The label of a pot as it will be printed, and what to print it on. */
export function Label() {
  const { id = '' } = useParams();
  const [measure, setMeasure] = useState<string>(useUsualMeasure());
  const [size, setSize] = useState<Size>('89x36');
  const label = useLabel(id, measure);
  const calls = usePourCalls(measure);
  const [place, setPlace] = useState<string>();
  const [square, setSquare] = useState<Square>('recipe');
  if (label.isError && !label.data) return <Failed error={label.error} retry={() => label.refetch()} />;
  if (!label.data) return <Waiting rows={4} />;
  const { data } = label;
  const copies = ON_A_SHEET[size] ?? 1;
  return (
    <div className="grid gap-5 p-4 md:p-6 print:p-0">
      <div className="grid gap-4 print:hidden">
        <div className="flex flex-wrap items-center gap-3">
          <Link to="/pot" className="press press-bare px-2">
            <ArrowLeft size={18} aria-hidden /> Pot
          </Link>
          <h1 className="min-w-0 flex-1 truncate text-3xl">
            Label for <bdi>{data.name ?? 'a mix without a name'}</bdi>
          </h1>
          <button type="button" className="press press-ink" onClick={() => window.print()}>
            <Printer size={18} aria-hidden /> Print
          </button>
        </div>
        <div className="flex flex-wrap items-end gap-3">
          <Segments
            label="Label size"
            choices={SIZES}
            value={size}
            onChange={setSize}
            className="flex flex-wrap"
          />
          <Picker label="Amounts in" choices={POURED_IN} value={measure} onChange={setMeasure} />
          {data.page && <Picker label="QR code" choices={SQUARES} value={square} onChange={setSquare} />}
          <div className="w-60">
            <Field
              label="Where the pot is kept"
              placeholder="shelf 3"
              value={place ?? data.place ?? ''}
              onChange={setPlace}
              onBlur={() => {
                if (place !== undefined && place !== (data.place ?? '')) void calls.place(id, place);
              }}
            />
          </div>
        </div>
      </div>
      <div className={`label-page-${size} flex flex-wrap content-start print:block`}>
        <div className={ON_A_SHEET[size] ? `label-${size}` : 'contents'}>
          {Array.from({ length: copies }, (_, copy) => copy).map((copy) => (
            <Sticker
              key={copy}
              label={data}
              size={size}
              square={data.page ? square : 'recipe'}
              hidden={copy > 0}
            />
          ))}
        </div>
      </div>
      <p className="max-w-prose text-sm text-soft print:hidden">
        {data.page && square === 'page'
          ? 'The QR code opens this page on a phone that is let in, while the network is on.'
          : 'The QR code holds the recipe as plain text, so any phone can read it.'}{' '}
        Find {data.code} to open the record here. Print at 100 %, printer margins off.
      </p>
    </div>
  );
}
