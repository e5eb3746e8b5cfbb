import { Copy, Ellipsis, PaintbrushVertical, Pencil, Trash2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { type ReactNode, useRef } from 'react';
import { useNavigate } from 'react-router';
import type { Piece } from '../../api/client';
import { Menu } from '../../parts/Menu';
import { NameInPlace } from '../../parts/NameInPlace';
import { Segments } from '../../parts/Segments';
import { chosenOf, schemeOf, schemesOf, withCopy, withoutScheme, withScheme } from './entry';

interface Props {
  entry: Piece;
  origin: number;
  onChange: (entry: Piece) => void;
  /** More that can be done with the scheme. */
  children: ReactNode;
}

/** Up to four ways to dress the piece. */
export function Schemes({ entry, origin, onChange, children }: Props) {
  const schemes = schemesOf(entry);
  const at = chosenOf(entry);
  const go = useNavigate();
  const name = useRef<HTMLInputElement>(null);
  // The name takes the focus once the menu has given it back.
  const renaming = useRef(false);
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-1">
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
      <Menu
        button={
          <button
            type="button"
            className="press press-bare px-0"
            aria-label="This scheme"
            title="This scheme"
          >
            <Ellipsis size={20} aria-hidden />
          </button>
        }
        takesFocus={() => {
          const taken = renaming.current;
          renaming.current = false;
          if (taken) name.current?.select();
          return taken;
        }}
      >
        <DropdownMenu.Item
          className="menu-item"
          onSelect={() => {
            renaming.current = true;
          }}
        >
          <Pencil size={18} aria-hidden /> Rename
        </DropdownMenu.Item>
        <DropdownMenu.Item
          className="menu-item"
          disabled={schemes.length >= 4}
          onSelect={() => onChange(withCopy(entry, `scheme ${String(schemes.length + 1)}`))}
        >
          <Copy size={18} aria-hidden /> Duplicate
        </DropdownMenu.Item>
        {schemes.length > 1 && (
          <DropdownMenu.Item className="menu-item" onSelect={() => onChange(withoutScheme(entry))}>
            <Trash2 size={18} aria-hidden /> Delete
          </DropdownMenu.Item>
        )}
        {children}
        <DropdownMenu.Item className="menu-item" onSelect={() => void go('/piece/touch-up')}>
          <PaintbrushVertical size={18} aria-hidden /> Touch up a spot
        </DropdownMenu.Item>
      </Menu>
    </div>
  );
}
