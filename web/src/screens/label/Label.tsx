import { ArrowLeft, Printer } from 'lucide-react';
import { type CSSProperties, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { PotLabel } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';
import { Field } from '../../parts/Field';
import { Picker } from '../../parts/Picker';
import { Segments } from '../../parts/Segments';
import { Failed, Waiting } from '../../parts/Waiting';
import { useLabel, usePourCalls } from '../../state/pours';
import { POURED_IN, useUsualMeasure } from '../pot/measures';

/** Common sizes, in mm; each has its page in the style sheet. */
const SIZES = [
  { id: '62x29', name: '62 × 29 mm' },
  { id: '89x36', name: '89 × 36 mm' },
  { id: '100x50', name: '100 × 50 mm' },
  { id: 'sheet', name: 'A4, 21 of 63.5 × 38 mm' },
  { id: 'letter', name: 'Letter, 30 of 2⅝ × 1 in' },
] as const;

/** How many fill a sheet of them. */
const ON_A_SHEET: Partial<Record<Size, number>> = { sheet: 21, letter: 30 };

type Size = (typeof SIZES)[number]['id'];

const SQUARES = [
  { id: 'recipe', name: 'The recipe as text' },
  { id: 'page', name: 'This page on a phone' },
] as const;

type Square = (typeof SQUARES)[number]['id'];

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

interface StickerProps {
  label: PotLabel;
  size: Size;
  square: Square;
  hidden: boolean;
}

function Sticker({ label, size, square, hidden }: StickerProps) {
  const page = square === 'page' ? label.page : undefined;
  const [modules, path] = page ? [page.size, page.path] : [label.code_size, label.code_path];
  return (
    <article
      aria-label={hidden ? undefined : 'Label'}
      aria-hidden={hidden}
      className={`label label-${size} flex overflow-hidden bg-white text-black`}
    >
      <Drawdown swatch={label.swatch ?? undefined} className="w-[16%] shrink-0" />
      <div className="flex min-w-0 flex-1 flex-col justify-between p-[1.6mm] leading-[1.1]">
        <div>
          <p
            className={`label-name line-clamp-2 font-display font-[650] ${label.parts.length > 3 ? 'label-name-many' : ''}`}
          >
            <bdi>{label.name ?? 'Mix without a name'}</bdi>
          </p>
          <ul className="label-parts" style={{ '--parts': label.parts.length } as CSSProperties}>
            {label.parts.map((part) => (
              <li key={part.name} className="truncate">
                <b>{part.parts}</b> <bdi>{part.name}</bdi>, {part.amount}
              </li>
            ))}
          </ul>
        </div>
        <p className="label-small">
          {label.total}, {label.day}
          {label.place && (
            <>
              , <bdi>{label.place}</bdi>
            </>
          )}
          <b className="block tracking-wider">{label.code}</b>
        </p>
      </div>
      <svg
        role="img"
        aria-label={page ? 'QR code that opens this page' : 'QR code with the recipe'}
        viewBox={`-2 -2 ${modules + 4} ${modules + 4}`}
        className="h-full shrink-0"
        shapeRendering="crispEdges"
      >
        <path d={path} fill="black" />
      </svg>
    </article>
  );
}
