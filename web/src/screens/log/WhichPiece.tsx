import { PaintPicker } from '../../parts/PaintPicker';
import { usePieces } from '../../state/piece';

/** A piece, or all pieces for one client; neither is every piece. */
interface Chosen {
  piece?: string;
  client?: string;
}

/** On which piece, or for whom. */
export function WhichPiece({ value, onChange }: { value: Chosen; onChange: (chosen: Chosen) => void }) {
  const { pieces } = usePieces();
  const clients = [...new Set(pieces.flatMap(({ client }) => client ?? []))].sort((a, b) =>
    a.localeCompare(b),
  );
  const choices = new Map<string, Chosen & { name: string }>([
    ['', { name: 'Any piece' }],
    ...clients.map((client) => [`for ${client}`, { client, name: `All for ${client}` }] as const),
    ...pieces.map(
      ({ id, name, client }) => [id, { piece: id, name: client ? `${name}, for ${client}` : name }] as const,
    ),
  ]);
  return (
    <PaintPicker
      label="Piece or client"
      choices={[...choices].map(([id, { name }]) => ({ id, name }))}
      value={value.piece ?? (value.client ? `for ${value.client}` : '')}
      onChange={(id) => onChange(choices.get(id) ?? {})}
      className="max-w-64"
    />
  );
}
