import type { CSSProperties } from 'react';
import type { PotLabel } from '../../api/client';
import { Drawdown } from '../../parts/Drawdown';

/** Sheets of labels; each has its page in the style sheet. */
export const SHEETS = [
  { id: 'sheet', name: 'A4, 21 of 63.5 × 38 mm' },
  { id: 'letter', name: 'Letter, 30 of 2⅝ × 1 in' },
] as const;

/** How many fill a sheet of them. */
export const ON_A_SHEET: Partial<Record<Size, number>> = { sheet: 21, letter: 30 };

export type Size = '62x29' | '89x36' | '100x50' | (typeof SHEETS)[number]['id'];

export const SQUARES = [
  { id: 'recipe', name: 'The recipe as text' },
  { id: 'page', name: 'Its page on a phone' },
] as const;

export type Square = (typeof SQUARES)[number]['id'];

interface StickerProps {
  label: PotLabel;
  size: Size;
  square: Square;
  hidden: boolean;
}

/** One label as it will be printed. */
export function Sticker({ label, size, square, hidden }: StickerProps) {
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
          {[label.place, label.client].filter(Boolean).map((text) => (
            <span key={text}>
              , <bdi>{text}</bdi>
            </span>
          ))}
          {label.until && <span className="block">Good until {label.until}</span>}
          <b className="block tracking-wider">{label.code}</b>
        </p>
      </div>
      <svg
        role="img"
        aria-label={page ? 'QR code that opens this page' : 'QR code with the recipe'}
        viewBox={`-2 -2 ${modules + 4} ${modules + 4}`}
        className="label-code h-full shrink-0"
        shapeRendering="crispEdges"
      >
        <path d={path} fill="black" />
      </svg>
    </article>
  );
}
