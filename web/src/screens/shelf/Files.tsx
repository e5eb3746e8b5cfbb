import { Download, FileDown, FileUp } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { Menu } from '../../parts/Menu';
import { ImportPanel } from './ImportPanel';

const EXPORTS = [
  { format: 'cgats', name: 'Spectra as CGATS.17' },
  { format: 'cxf', name: 'Spectra as CxF/X' },
  { format: 'csv', name: 'Tins as CSV' },
  { format: 'gpl', name: 'Palette as .gpl' },
  { format: 'json', name: 'Everything as JSON' },
];

/** Import and export of the shelf. */
export function Files({ first = false }: { first?: boolean }) {
  const [importing, setImporting] = useState(false);
  return (
    <>
      {first ? (
        <button type="button" className="press press-plain" onClick={() => setImporting(true)}>
          <FileUp size={18} aria-hidden /> Import a file
        </button>
      ) : (
        <Menu
          align="end"
          button={
            <button type="button" className="press press-plain shrink-0">
              <Download size={18} aria-hidden /> Files
            </button>
          }
        >
          <DropdownMenu.Item className="menu-item" onSelect={() => setImporting(true)}>
            <FileUp size={18} aria-hidden /> Import a file…
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          {EXPORTS.map(({ format, name }) => (
            <DropdownMenu.Item key={format} asChild className="menu-item">
              <a href={`/api/export/${format}`} download>
                <FileDown size={18} aria-hidden /> {name}
              </a>
            </DropdownMenu.Item>
          ))}
        </Menu>
      )}
      {importing && <ImportPanel onClose={() => setImporting(false)} />}
    </>
  );
}
