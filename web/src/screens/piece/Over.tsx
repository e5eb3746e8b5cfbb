import { X } from 'lucide-react';
import type { Piece, ZoneView } from '../../api/client';
import { useBoardChoices } from '../../state/boards';
import { usePaints } from '../../state/workspace';
import { schemeOf, withScheme } from './entry';

interface Props {
  entry: Piece;
  zones: ZoneView[];
  onChange: (entry: Piece) => void;
}

/** What lies over the dressed zones: each can be taken off again. */
export function Over({ entry, zones, onChange }: Props) {
  const techniques = useBoardChoices()?.techniques ?? [];
  const paints = usePaints().data ?? [];
  const over = schemeOf(entry).over ?? [];
  if (over.length === 0) return null;
  const name = (id: string) => paints.find((paint) => paint.id === id)?.entry.name ?? 'a paint';
  return (
    <section aria-label="Over all" className="grid gap-1">
      <h2 className="text-lg">Over the whole piece</h2>
      <ul className="grid gap-px">
        {over.map(({ layer, zones: on = [] }, n) => (
          <li key={layer.id} className="flex items-center gap-2 bg-panel pl-3">
            <span className="min-w-0 flex-1 py-2 leading-tight">
              <span className="block font-semibold">
                {techniques.find(({ id }) => id === layer.technique)?.name}:{' '}
                {layer.pot
                  .map(({ paint, parts }) =>
                    layer.pot.length > 1 ? `${String(parts)} ${name(paint)}` : name(paint),
                  )
                  .join(' : ')}
              </span>
              <span className="block text-sm text-soft">
                {on.length === 0
                  ? 'everywhere'
                  : on.map((id) => zones.find((one) => one.zone === id)?.name ?? id).join(', ')}
              </span>
            </span>
            <button
              type="button"
              className="press press-bare px-0"
              aria-label={`Remove ${techniques.find(({ id }) => id === layer.technique)?.name ?? 'this layer'}`}
              onClick={() => onChange(withScheme(entry, { over: over.filter((_, i) => i !== n) }))}
            >
              <X size={18} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
