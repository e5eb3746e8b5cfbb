import { Copy, Pencil, Trash2 } from 'lucide-react';
import { type ReactNode, useRef } from 'react';
import type { Piece } from '../../api/client';
import { NameInPlace } from '../../parts/NameInPlace';
import { Segments } from '../../parts/Segments';
import { chosenOf, schemeOf, schemesOf, withCopy, withoutScheme, withScheme } from './entry';

interface Props {
  entry: Piece;
  origin: number;
  onChange: (entry: Piece) => void;
  children: ReactNode;
}

/** Up to four ways to dress the piece. */
export function Schemes({ entry, origin, onChange, children }: Props) {
  const schemes = schemesOf(entry);
  const at = chosenOf(entry);
  const name = useRef<HTMLInputElement>(null);
  return (
    <div className="flex flex-wrap items-center gap-1">
      {schemes.length > 1 && (
        <Segments
          label="Scheme"
          choices={schemes.map((scheme, n) => ({ id: String(n), name: scheme.name }))}
          value={String(at)}
          onChange={(id) => onChange({ ...entry, chosen: Number(id) })}
          className="inline-flex flex-wrap"
        />
      )}
      <NameInPlace
        ref={name}
        key={`${String(origin)} ${String(at)}`}
        label="Name of the scheme"
        kept={schemeOf(entry).name}
        onKeep={(name) => onChange(withScheme(entry, { name }))}
        className={`w-40 flex-1 font-semibold ${schemes.length > 1 ? 'sr-only focus:not-sr-only' : ''}`}
      />
      {schemes.length > 1 && (
        <button
          type="button"
          className="press press-bare px-0"
          aria-label="Rename this scheme"
          title="Rename this scheme"
          onClick={() => name.current?.select()}
        >
          <Pencil size={18} aria-hidden />
        </button>
      )}
      <div className="flex-1" />
      <button
        type="button"
        className="press press-bare text-sm"
        disabled={schemes.length >= 4}
        onClick={() => onChange(withCopy(entry, `scheme ${String(schemes.length + 1)}`))}
      >
        <Copy size={18} aria-hidden /> Duplicate
      </button>
      {schemes.length > 1 && (
        <button
          type="button"
          className="press press-bare px-0"
          aria-label="Delete this scheme"
          onClick={() => onChange(withoutScheme(entry))}
        >
          <Trash2 size={18} aria-hidden />
        </button>
      )}
      {children}
    </div>
  );
}
